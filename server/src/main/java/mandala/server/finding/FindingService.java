package mandala.server.finding;

import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.detect.Harm;
import mandala.core.detect.Remedies;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.FindingText;
import mandala.document.Naming;
import mandala.document.TroubleText;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.DraftProposals;
import mandala.server.model.History;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** Lists findings, and takes what people say of them. */
@Component
class FindingService {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final int MOST = 100;
  private static final DateTimeFormatter DAY =
      DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);

  private final SeenFindingReader reader;
  private final FindingStore store;
  private final DraftProposals drafts;
  private final History history;
  private final Trail trail;
  private final AuditContext auditContext;
  private final TransactionTemplate transactions;

  FindingService(
      SeenFindingReader reader,
      FindingStore store,
      DraftProposals drafts,
      History history,
      Trail trail,
      AuditContext auditContext,
      TransactionTemplate transactions) {
    this.reader = reader;
    this.store = store;
    this.drafts = drafts;
    this.history = history;
    this.trail = trail;
    this.auditContext = auditContext;
    this.transactions = transactions;
  }

  // ---- lists ------------------------------------------------------------------------------------

  FindingController.FindingList list(
      FindingController.FindingParams params, RequestContext context) {
    requireReader(context);
    SeenFindingReader.Seen seen = reader.read(context);
    Views views = new Views(context);
    Predicate<SeenFinding> others = filter(params, views, context);
    List<SeenFinding> all = seen.findings().stream().filter(others).toList();
    List<SeenFinding> some =
        new ArrayList<>(
            all.stream()
                .filter(
                    it -> given(params.detector()).isEmpty() || it.kind().equals(params.detector()))
                .filter(
                    it -> given(params.harm()).isEmpty() || word(it.harm()).equals(params.harm()))
                .toList());
    Comparator<SeenFinding> order = order(params.order());
    if (order != null) {
      some.sort(order);
    }
    int skip = params.skip() == null ? 0 : params.skip();
    int most = params.most() == null ? MOST : params.most();
    FindingStore.Known known = seen.known();
    return new FindingController.FindingList(
        known.lookedAt().equals(Instant.MIN) ? null : known.lookedAt(),
        known.cut().stream().map(TroubleText::title).sorted().toList(),
        some.stream().skip(skip).limit(most).map(views::of).toList(),
        some.size(),
        kinds(all),
        seen.elsewhere());
  }

  private static void requireReader(RequestContext context) {
    if (!context.readPolicy().mayReadAnybody()) {
      throw Problem.forbidden(
          "Your access does not cover the findings of any account. Ask a security administrator.");
    }
  }

  private static @Nullable Comparator<SeenFinding> order(@Nullable String order) {
    return switch (given(order)) {
      case "", "worst" -> null;
      case "newest" ->
          Comparator.comparing(SeenFinding::since, Comparator.nullsLast(Comparator.reverseOrder()));
      case "largest" -> Comparator.comparing(SeenFinding::weight, Comparator.reverseOrder());
      default ->
          throw Problem.badRequest(
              "There is no order '" + order + "'", "Choose worst, newest or largest.");
    };
  }

  private static List<FindingController.KindCount> kinds(List<SeenFinding> all) {
    Map<String, FindingController.KindCount> kinds = new LinkedHashMap<>();
    for (SeenFinding it : all) {
      kinds.merge(
          it.kind(),
          new FindingController.KindCount(it.kind(), title(it), word(it.harm()), 1),
          (one, other) ->
              new FindingController.KindCount(
                  one.kind(), one.title(), one.harm(), one.many() + other.many()));
    }
    return kinds.values().stream()
        .sorted(
            Comparator.comparingInt((FindingController.KindCount it) -> harmOf(it.harm()))
                .thenComparing(FindingController.KindCount::title))
        .toList();
  }

  private static int harmOf(String word) {
    for (Harm it : Harm.values()) {
      if (word(it).equals(word)) {
        return it.ordinal();
      }
    }
    return Integer.MAX_VALUE;
  }

  private static Predicate<SeenFinding> filter(
      FindingController.FindingParams params, Views views, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    Permission.Risk least = given(params.risk()).isEmpty() ? null : risk(given(params.risk()));
    String within = given(params.account());
    AccountKey account = within.isEmpty() ? null : new AccountKey(within);
    String owner = given(params.owner());
    String about = given(params.about());
    String text = given(params.text()).toLowerCase(Locale.ROOT);
    return it ->
        (least == null || it.risk().compareTo(least) >= 0)
            && (account == null || isIn(it.account(), account, catalogue))
            && (owner.isEmpty()
                || owner.equals(it.state().owner() == null ? "none" : it.state().owner()))
            && isInState(params.state(), views.state(it))
            && (about.isEmpty()
                || (views.isReadable(it.about())
                    && about.equals(
                        TroubleText.kind(it.about()).field() + ":" + it.about().value())))
            && (text.isEmpty() || views.isCalled(it, text));
  }

  /** {@return what a call says}, empty where it says nothing */
  private static String given(@Nullable String value) {
    return value == null ? "" : value.strip();
  }

  private static boolean isIn(@Nullable AccountKey one, AccountKey account, Catalogue catalogue) {
    return one != null
        && catalogue.accounts().containsKey(account)
        && catalogue.isAtOrBelow(one, account);
  }

  private static boolean isInState(@Nullable String wanted, String is) {
    return switch (given(wanted)) {
      case "" -> is.equals("new") || is.equals("in-draft");
      case "any" -> true;
      case "new", "accepted", "in-draft", "resolved" -> is.equals(wanted);
      default ->
          throw Problem.badRequest(
              "There is no state '" + wanted + "'",
              "Choose new, accepted, in-draft, resolved or any.");
    };
  }

  private static Permission.Risk risk(String word) {
    for (Permission.Risk it : Permission.Risk.values()) {
      if (it.name().equalsIgnoreCase(word)) {
        return it;
      }
    }
    throw Problem.badRequest(
        "There is no risk '" + word + "'", "Choose low, moderate, high or critical.");
  }

  private static String word(Enum<?> it) {
    return it.name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  private static String title(SeenFinding it) {
    return switch (it.kind()) {
      case "exclusion" -> "Exclusion broken";
      case "expectation" -> "Expectation fails";
      case "prerequisite" -> "Prerequisite missing";
      case "holders" -> "Too few or too many holders";
      default -> TroubleText.title(Objects.requireNonNull(it.trouble()).detector());
    };
  }

  // ---- views ------------------------------------------------------------------------------------

  /** Makes views for one call. */
  private final class Views {
    private final RequestContext context;
    private final Catalogue catalogue;
    private final TroubleText text;
    private final FindingText rules;
    private final Map<String, Boolean> alive = new HashMap<>();

    Views(RequestContext context) {
      this.context = context;
      catalogue = context.state().engine().catalogue();
      text = new TroubleText(catalogue, context.naming());
      rules = new FindingText(catalogue, catalogue, context.naming());
    }

    String state(SeenFinding it) {
      if (it.resolvedAt() != null) {
        return "resolved";
      }
      if (it.isAccepted(context.readPolicy().now())) {
        return "accepted";
      }
      String draft = it.state().draft();
      return draft != null && alive.computeIfAbsent(draft, this::isAlive) ? "in-draft" : "new";
    }

    private boolean isAlive(String draft) {
      return FindingService.this.drafts.isAlive(draft);
    }

    boolean isCalled(SeenFinding it, String lowerCase) {
      return (isReadable(it.about())
              && it.about().value().toLowerCase(Locale.ROOT).contains(lowerCase))
          || text(it).name(it.about()).toLowerCase(Locale.ROOT).contains(lowerCase);
    }

    /** Of what is told only because somebody holds it, the key is not. */
    boolean isReadable(Key key) {
      return context.naming().tells(TroubleText.kind(key), key.value());
    }

    FindingController.FindingRow of(SeenFinding it) {
      FindingState.Acceptance accepted = it.state().acceptance();
      String state = state(it);
      AccountKey account = it.account();
      boolean told = account != null && context.naming().tells(Kind.ACCOUNTS, account.value());
      String owner = it.state().owner();
      boolean known = owner != null && context.naming().tells(Kind.PRINCIPALS, owner);
      return new FindingController.FindingRow(
          it.idFor(context),
          it.kind(),
          title(it),
          word(it.harm()),
          word(it.risk()),
          it.weight(),
          said(it),
          TroubleText.kind(it.about()).field(),
          isReadable(it.about()) ? it.about().value() : null,
          text(it).name(it.about()),
          told && account != null ? account.value() : null,
          told && account != null ? text.name(account) : null,
          state,
          accepted == null || state.equals("accepted")
              ? null
              : it.isWorseThan(accepted) ? "worse" : "ended",
          known ? owner : null,
          owner == null ? null : known ? text.name(new PrincipalKey(owner)) : "Somebody",
          accepted == null ? null : accepted.until(),
          accepted == null ? null : accepted.reason(),
          it.since(),
          it.revision(),
          it.resolvedAt(),
          isMine(it, context));
    }

    private String said(SeenFinding it) {
      return it.rule() != null
          ? rules.of(it.rule()).name() + ": " + rules.of(it.rule()).said()
          : text(it).of(Objects.requireNonNull(it.trouble()));
    }

    private TroubleText text(SeenFinding it) {
      return it.people().isEmpty()
          ? text
          : new TroubleText(catalogue, SeenFindingReader.naming(it.people(), it.within(), context));
    }
  }

  /** Whether somebody may assign access in the account, or define rights for all accounts. */
  private static boolean isMine(SeenFinding it, RequestContext context) {
    AccountKey account = it.account();
    return account != null
        ? context.readPolicy().may(Supplied.ACCESS_ASSIGN, ResourceKey.of(account))
        : context.state().engine().catalogue().accounts().values().stream()
            .filter(each -> each.parent() == null)
            .anyMatch(each ->
                context.readPolicy().may(Supplied.RIGHTS_DEFINE, ResourceKey.of(each.key())));
  }

  // ---- one --------------------------------------------------------------------------------------

  FindingController.FindingDetail one(String id, RequestContext context) {
    requireReader(context);
    SeenFinding it = require(List.of(id), context).getFirst();
    List<FindingController.RemedyView> remedies = new ArrayList<>();
    if (it.trouble() != null && it.resolvedAt() == null) {
      for (Remedies.Remedy remedy :
          Remedies.of(it.trouble(), context.state().engine(), context.readPolicy().now())) {
        if (isOffered(remedy, context)) {
          remedies.add(
              new FindingController.RemedyView(
                  word(remedy.act()),
                  TroubleText.label(remedy.act()),
                  remedy.changes().stream()
                      .flatMap(change -> context.text().sentences(change).stream())
                      .toList(),
                  remedy.changes().stream().map(change -> edit(change, context)).toList()));
        }
      }
    }
    return new FindingController.FindingDetail(new Views(context).of(it), remedies);
  }

  /** What was ever in use is retired, so that the past stays readable; else it is removed. */
  private boolean isOffered(Remedies.Remedy remedy, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    Thing first = remedy.changes().getFirst().things().getFirst();
    boolean kept =
        switch (remedy.act()) {
          case RETIRE_ROLE, RETIRE_GROUP -> isEverGiven(first);
          case REMOVE_ROLE, REMOVE_GROUP -> !isEverGiven(first);
          case MERGE_ROLES ->
              remedy.changes().stream()
                  .filter(it -> it instanceof Change.Removed)
                  .noneMatch(it -> isEverGiven(it.things().getFirst()));
          default -> true;
        };
    return kept
        && remedy.changes().stream().allMatch(it -> context.tellsAllOf(it, catalogue))
        && remedy.changes().stream()
            .allMatch(it -> context.cannotChange(it.things().getFirst()) == null);
  }

  private boolean isEverGiven(Thing it) {
    Key key = it.key();
    return key != null && history.everGiven(Kind.of(it), key.value());
  }

  private static JsonNode edit(Change change, RequestContext context) {
    Thing first = change.things().getFirst();
    Key key = first.key();
    ObjectNode edit = JSON.createObjectNode();
    edit.put("kind", Kind.of(first).field());
    if (!(change instanceof Change.Added)) {
      if (key == null) {
        edit.set("before", context.json(first));
      } else {
        edit.put("key", key.value());
      }
    }
    if (change instanceof Change.Removed) {
      edit.put("remove", true);
    } else {
      edit.set("after", context.json(change.things().getLast()));
    }
    return edit;
  }

  // ---- what people say --------------------------------------------------------------------------

  int accept(FindingController.AcceptanceOrder order, RequestContext context) {
    Instant now = context.readPolicy().now();
    List<SeenFinding> some = requireMine(order.ids(), context);
    transactions.executeWithoutResult(_ -> {
      for (SeenFinding it : some) {
        store.accept(
            it.id(),
            new FindingState.Acceptance(
                order.until(),
                context.readPolicy().viewer().value(),
                now,
                it.risk(),
                it.weight(),
                order.reason().strip()));
      }
      note(
          some,
          "Accepted until "
              + DAY.format(order.until().atOffset(ZoneOffset.UTC))
              + " (“"
              + order.reason().strip()
              + "”)",
          context);
    });
    return some.size();
  }

  int reopen(List<String> ids, RequestContext context) {
    List<SeenFinding> some = requireMine(ids, context);
    transactions.executeWithoutResult(_ -> {
      some.forEach(it -> store.reopen(it.id()));
      note(some, "Reopened", context);
    });
    return some.size();
  }

  int own(FindingController.OwnershipOrder order, RequestContext context) {
    List<SeenFinding> some = requireMine(order.ids(), context);
    String owner = order.owner() == null || order.owner().isBlank() ? null : order.owner();
    String said = "Removed the owner";
    if (owner != null) {
      Principal who =
          context.state().engine().catalogue().principals().get(new PrincipalKey(owner));
      boolean known =
          who != null
              && who.kind() == Principal.Kind.PERSON
              && context.readPolicy().mayRead(who)
              && context.state().engine().isActive(who.key(), context.readPolicy().now());
      if (!known || who == null) {
        throw Problem.notFound(
            "There is no active person '" + owner + "' that you may name. Choose from the list.");
      }
      said = "Made " + who.about().nameOr(who.key()) + " the owner";
    }
    String what = said;
    transactions.executeWithoutResult(_ -> {
      some.forEach(it -> store.own(it.id(), owner));
      note(some, what, context);
    });
    return some.size();
  }

  int drafted(String id, String draft, RequestContext context) {
    SeenFinding it = require(List.of(id), context).getFirst();
    if (!drafts.isOwn(draft, context)) {
      throw Problem.notFound("You have no draft '" + draft + "'. Add the remedy to a draft first.");
    }
    store.drafted(it.id(), draft);
    return 1;
  }

  private List<SeenFinding> requireMine(List<String> ids, RequestContext context) {
    List<SeenFinding> some = require(ids, context);
    for (SeenFinding it : some) {
      if (!isMine(it, context)) {
        AccountKey account = it.account();
        throw Problem.forbidden(
            account == null
                ? "You need “Define rights” on a root account to decide about this finding. Ask a"
                    + " security administrator."
                : "You need “Assign access” on "
                    + context.text().name(Kind.ACCOUNTS, account.value())
                    + " to decide about this finding. Ask its administrator.");
      }
    }
    return some;
  }

  private List<SeenFinding> require(Collection<String> ids, RequestContext context) {
    requireReader(context);
    Map<String, SeenFinding> known = new HashMap<>();
    reader.read(context).findings().forEach(it -> known.put(it.idFor(context), it));
    List<SeenFinding> some = new ArrayList<>();
    for (String id : new LinkedHashSet<>(ids)) {
      SeenFinding it = known.get(id);
      if (it == null) {
        throw Problem.notFound(
            "There is no finding '" + id + "' that you may see. Reload the list.");
      }
      some.add(it);
    }
    return some;
  }

  private void note(List<SeenFinding> some, String what, RequestContext context) {
    Catalogue catalogue = context.state().engine().catalogue();
    TroubleText text = new TroubleText(catalogue, Naming.ALL);
    List<AuditEvent> lines = new ArrayList<>();
    for (SeenFinding it : some) {
      AccountKey account = it.account();
      List<String> accounts =
          account != null
              ? List.of(account.value())
              : catalogue.accounts().values().stream()
                  .filter(each -> each.parent() == null)
                  .map(each -> each.key().value())
                  .toList();
      AuditEvent line = auditContext.by(AuditEvent.Act.CHECKED, accounts, what + ": " + title(it));
      lines.add(FindingLook.about(it.about(), line, text));
    }
    trail.write(lines);
  }
}
