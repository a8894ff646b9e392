package mandala.server.lifecycle;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.LongSupplier;
import mandala.core.analysis.Peers;
import mandala.core.change.Change;
import mandala.core.lifecycle.PersonnelList;
import mandala.core.lifecycle.PersonnelList.Fact;
import mandala.core.lifecycle.PersonnelList.Step;
import mandala.core.lifecycle.PersonnelList.What;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.DraftProposals;
import mandala.server.lifecycle.PersonnelSources.Source;
import mandala.server.lifecycle.PersonnelSources.State;
import mandala.server.lifecycle.PersonnelSources.Taken;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Lists of the personnel office, of whoever may manage people in their account. A list that
 * somebody gives by hand becomes a draft of theirs; a file of the folder is taken with the rights
 * of who saved the list last.
 */
@Service
class PersonnelDesk {

  private static final int MOST_SHOWN = 300;
  private static final int MOST_TAKEN = 20;

  private static final List<What> ORDER =
      List.of(What.LEAVES, What.RETURNS, What.JOINS, What.CHANGES);

  private final PersonnelSources sources;
  private final PersonnelRun run;
  private final DraftProposals drafts;
  private final Trail trail;
  private final AuditContext auditContext;
  private final TransactionTemplate transactions;

  PersonnelDesk(
      PersonnelSources sources,
      PersonnelRun run,
      DraftProposals drafts,
      Trail trail,
      AuditContext auditContext,
      TransactionTemplate transactions) {
    this.sources = sources;
    this.run = run;
    this.drafts = drafts;
    this.trail = trail;
    this.auditContext = auditContext;
    this.transactions = transactions;
  }

  /** {@return the lists of accounts in which the viewer may manage people}, the oldest first */
  List<PersonnelController.PersonnelSourceView> lists(RequestContext context) {
    return sources.all().stream()
        .filter(it -> ManagedAccounts.mayManage(it.order().account(), context))
        .map(it -> view(it, context))
        .toList();
  }

  private PersonnelController.PersonnelSourceView view(Source it, RequestContext context) {
    PersonnelOrder order = it.order();
    List<Taken> taken = sources.taken(it.number(), MOST_TAKEN);
    return new PersonnelController.PersonnelSourceView(
        it.number(),
        order,
        context.text().name(Kind.ACCOUNTS, order.account()),
        context.text().name(Kind.PRINCIPALS, it.owner()),
        order.file() == null ? null : "personnel/" + order.account() + "/",
        context.state().engine().isActive(new PrincipalKey(it.owner()), context.readPolicy().now()),
        taken.stream().map(one -> view(run.noted(one), context)).toList());
  }

  private PersonnelController.PersonnelTakenView view(Taken it, RequestContext context) {
    String by = it.by();
    String draft = it.draft();
    return new PersonnelController.PersonnelTakenView(
        it.number(),
        it.at(),
        by == null ? null : context.text().name(Kind.PRINCIPALS, by),
        it.joins(),
        it.changes(),
        it.returns(),
        it.leaves(),
        it.faulty(),
        it.holds(),
        it.state().word(),
        it.heldUp(),
        draft != null && it.state().isOpen() && drafts.isOwn(draft, context) ? draft : null,
        it.revision());
  }

  private Source require(long number, RequestContext context) {
    return sources
        .locked(number)
        .filter(it -> ManagedAccounts.mayManage(it.order().account(), context))
        .orElseThrow(() ->
            Problem.notFound(
                "There is no personnel list " + number + ". Choose one from the list."));
  }

  private Source found(long number, RequestContext context) {
    return Objects.requireNonNull(transactions.execute(_ -> require(number, context)));
  }

  /** Sets up a list. */
  PersonnelController.PersonnelSourceView add(PersonnelOrder order, RequestContext context) {
    ManagedAccounts.requireManage(order.account(), context);
    return done(
        context,
        () -> {
          requireAlone(order, null, context);
          long number = sources.add(order, me(context), context.readPolicy().now());
          note("Set up", order);
          return number;
        });
  }

  /** Two lists would undo each other's changes. */
  private void requireAlone(PersonnelOrder order, @Nullable Long number, RequestContext context) {
    sources.lockAll();
    Catalogue in = context.state().engine().catalogue();
    AccountKey account = new AccountKey(order.account());
    for (Source it : sources.all()) {
      AccountKey other = new AccountKey(it.order().account());
      boolean same = number != null && number == it.number();
      if (!same
          && in.accounts().containsKey(other)
          && (in.isAtOrBelow(account, other) || in.isAtOrBelow(other, account))) {
        throw Problem.conflict(
            "These people have a personnel list already",
            ManagedAccounts.mayManage(other.value(), context)
                ? "“" + it.order().title() + "” has them. Change it, or end it first."
                : "It is kept in another account. Ask a directory administrator of the whole.");
      }
    }
  }

  /** Changes how a list is read. */
  PersonnelController.PersonnelSourceView change(
      long number, PersonnelOrder order, RequestContext context) {
    ManagedAccounts.requireManage(order.account(), context);
    return done(
        context,
        () -> {
          requireAlone(order, number, context);
          require(number, context);
          sources.change(number, order, me(context));
          note("Changed", order);
          return number;
        });
  }

  /** Ends a list. */
  void end(long number, RequestContext context) {
    transactions.executeWithoutResult(_ -> {
      Source it = require(number, context);
      sources.end(number, context.readPolicy().now());
      note("Ended", it.order());
    });
  }

  /** Looks for a new file in the folder. */
  PersonnelController.PersonnelSourceView look(long number, RequestContext context) {
    run.look(found(number, context));
    return done(context, () -> number);
  }

  private PersonnelController.PersonnelSourceView done(RequestContext context, LongSupplier act) {
    Source it =
        Objects.requireNonNull(transactions.execute(_ -> require(act.getAsLong(), context)));
    return view(it, context);
  }

  private static String me(RequestContext context) {
    return context.readPolicy().viewer().value();
  }

  private void note(String did, PersonnelOrder order) {
    trail.write(
        List.of(
            auditContext.by(
                AuditEvent.Act.CHANGED,
                List.of(order.account()),
                did + " the personnel list “" + order.title() + "”")));
  }

  /** {@return what a list would do} */
  PersonnelController.PersonnelPreview preview(
      PersonnelOrder order, String text, RequestContext context) {
    ManagedAccounts.requireManage(order.account(), context);
    return preview(order, PersonnelReader.read(text, order, context), context);
  }

  private static PersonnelController.PersonnelPreview preview(
      PersonnelOrder order, PersonnelReader.Read read, RequestContext context) {
    Map<String, Long> lines = new HashMap<>();
    String column = read.mapping().getOrDefault("number", "");
    read.table()
        .rows()
        .forEach(it -> lines.putIfAbsent(ListedThings.plain(it.cell(column)), it.line()));
    List<PersonnelController.PersonnelLineView> first = new ArrayList<>();
    read.faulty().stream()
        .limit(MOST_SHOWN)
        .map(it ->
            new PersonnelController.PersonnelLineView(
                it.row().line(), "faulty", it.name(), it.number(), null, it.why()))
        .forEach(first::add);
    for (What what : ORDER) {
      read.steps().stream()
          .filter(it -> it.what() == what)
          .limit(MOST_SHOWN - first.size())
          .map(it -> line(it, lines, context))
          .forEach(first::add);
    }
    return new PersonnelController.PersonnelPreview(
        read.table().columns(),
        PersonnelReader.FACTS,
        read.mapping(),
        read.count(What.JOINS),
        read.count(What.CHANGES),
        read.count(What.RETURNS),
        read.count(What.LEAVES),
        read.faulty().size(),
        read.unchanged(),
        read.holds(),
        read.removesMoreThan(order.most()) ? PersonnelRun.tooMany(order, read) : null,
        first,
        read.notTaken());
  }

  private static PersonnelController.PersonnelLineView line(
      Step it, Map<String, Long> lines, RequestContext context) {
    Principal after = it.after();
    Principal before = it.before();
    String number = after.attributes().getOrDefault(PersonnelList.NUMBER, "");
    return new PersonnelController.PersonnelLineView(
        lines.get(ListedThings.plain(number)),
        it.what().name().toLowerCase(Locale.ROOT),
        after.about().nameOr(after.key()),
        number,
        before == null ? null : before.key().value(),
        before == null
            ? List.of()
            : it.facts().stream().map(fact -> says(fact, before, after, context)).toList());
  }

  private static String says(Fact fact, Principal before, Principal after, RequestContext context) {
    return switch (fact) {
      case NAME -> "Name: " + change(before.about().name(), after.about().name());
      case EMAIL -> "Address: " + change(before.email(), after.email());
      case TITLE ->
          "Job: "
              + change(before.attributes().get(Peers.TITLE), after.attributes().get(Peers.TITLE));
      case UNIT ->
          "Unit: "
              + change(
                  named(Kind.UNITS, before.unit(), context),
                  named(Kind.UNITS, after.unit(), context));
      case MANAGER ->
          "Manager: "
              + change(
                  named(Kind.PRINCIPALS, before.manager(), context),
                  named(Kind.PRINCIPALS, after.manager(), context));
      case FROM -> "First day: " + change(day(before.window().from()), day(after.window().from()));
      case UNTIL ->
          "Day after the last: "
              + change(day(before.window().until()), day(after.window().until()));
    };
  }

  private static String change(@Nullable String before, @Nullable String after) {
    return (before == null ? "none" : before) + " → " + (after == null ? "none" : after);
  }

  private static @Nullable String named(Kind kind, @Nullable Key key, RequestContext context) {
    return key == null ? null : context.text().name(kind, key.value());
  }

  private static @Nullable String day(@Nullable Instant at) {
    return at == null ? null : LocalDate.ofInstant(at, ZoneOffset.UTC).toString();
  }

  /** Makes a draft of whoever gives a list by hand. */
  PersonnelController.PersonnelTakenView give(
      long number, PersonnelController.PersonnelGiven given, RequestContext context) {
    String text = given.list();
    if (text == null || text.isBlank()) {
      throw Problem.badRequest(
          "The list is empty", "Give a table whose first line names the columns.");
    }
    Source source = found(number, context);
    requireSettled(source);
    return take(source, text, given, null, context);
  }

  private @Nullable Taken last(Source source) {
    return sources.taken(source.number(), 1).stream().findFirst().orElse(null);
  }

  private void requireSettled(Source source) {
    Taken last = last(source);
    if (last != null && run.noted(last).state() == State.PROPOSED) {
      throw Problem.conflict(
          "The last list still waits in a draft",
          "Apply that draft or discard it, then give the next list.");
    }
  }

  private Taken requireStopped(Source source, long list) {
    return sources
        .one(source.number(), list)
        .filter(it -> it.state() == State.STOPPED)
        .orElseThrow(() -> Problem.notFound("List " + list + " is not stopped. Reload the page."));
  }

  /** {@return what a list that is stopped would do now} */
  PersonnelController.PersonnelPreview stopped(long number, long list, RequestContext context) {
    Source source = found(number, context);
    String text = Objects.requireNonNull(requireStopped(source, list).content());
    return preview(source.order(), text, context);
  }

  /** Makes a draft of whoever wants a list that is stopped. */
  PersonnelController.PersonnelTakenView takeAnyway(
      long number, long list, PersonnelController.PersonnelGiven given, RequestContext context) {
    Source source = found(number, context);
    Taken stopped = requireStopped(source, list);
    return take(
        source, Objects.requireNonNull(stopped.content()), given, stopped.number(), context);
  }

  private PersonnelController.PersonnelTakenView take(
      Source source,
      String text,
      PersonnelController.PersonnelGiven given,
      @Nullable Long stopped,
      RequestContext context) {
    PersonnelReader.Read read = PersonnelReader.read(text, source.order(), context);
    Integer leaves = given.leaves();
    boolean known = leaves != null && leaves == read.count(What.LEAVES);
    if (read.removesMoreThan(source.order().most()) && !known) {
      throw Problem.conflict(
          "This list would remove too many",
          PersonnelRun.tooMany(source.order(), read)
              + " Confirm how many leave, or give the whole list.");
    }
    List<Change> changes =
        PersonnelList.changes(context.state().engine().catalogue(), read.steps());
    Taken taken =
        transactions.execute(_ -> {
          require(source.number(), context);
          if (stopped != null) {
            requireStopped(source, stopped);
          }
          run.drop(last(source));
          String draft =
              changes.isEmpty()
                  ? null
                  : drafts.begin(PersonnelRun.draftName(source.order()), changes, context);
          long list =
              sources.note(
                  source.number(),
                  context.readPolicy().now(),
                  me(context),
                  DigestUtils.sha256Hex(text),
                  read,
                  draft == null ? State.NOTHING : State.PROPOSED,
                  null,
                  null,
                  draft);
          return sources.one(source.number(), list).orElseThrow();
        });
    return view(Objects.requireNonNull(taken), context);
  }

  /** Dismisses a list that is stopped or waits. */
  PersonnelController.PersonnelSourceView dismiss(long number, long list, RequestContext context) {
    return done(
        context,
        () -> {
          Source source = require(number, context);
          Taken it =
              sources
                  .one(number, list)
                  .filter(one -> one.state() == State.STOPPED || one.state() == State.WAITS)
                  .orElseThrow(() ->
                      Problem.notFound("List " + list + " no longer waits. Reload the page."));
          run.drop(it);
          note("Dismissed a file of", source.order());
          return number;
        });
  }
}
