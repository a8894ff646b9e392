package mandala.server.lifecycle;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.lifecycle.Loan;
import mandala.core.lifecycle.PersonMove;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.draft.UnattendedDrafts;
import mandala.server.model.Departure;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.platform.Problem;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * What happens to people at a date. Kept as it was chosen, and made a draft at that date, of the
 * model in force then and with the rights that its owner has then (section 11).
 */
@Component
class PlannedActs implements RecurringWork, Departure {

  private static final Logger LOG = LoggerFactory.getLogger(PlannedActs.class);
  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** How far ahead something can be planned. */
  private static final Duration FARTHEST = Duration.ofDays(366);

  /** What can be planned. */
  enum Act {
    MOVE,
    GRACE,
    PART,
    LOAN;

    String word() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  private record Row(
      long number,
      String principal,
      Act act,
      String choice,
      String owner,
      Instant due,
      @Nullable String afterDraft,
      @Nullable String draft,
      @Nullable String heldUp) {}

  private final JdbcTemplate database;
  private final UnattendedDrafts drafts;
  private final RequestContexts contexts;
  private final Notices notices;
  private final TransactionTemplate transactions;
  private final Clock clock;

  PlannedActs(
      JdbcTemplate database,
      UnattendedDrafts drafts,
      RequestContexts contexts,
      Notices notices,
      TransactionTemplate transactions,
      Clock clock) {
    this.database = database;
    this.drafts = drafts;
    this.contexts = contexts;
    this.notices = notices;
    this.transactions = transactions;
    this.clock = clock;
  }

  /**
   * Plans an act of whoever calls, in place of one of the same kind; loans may be several.
   *
   * @param choice as it is to be read again
   * @param afterDraft the draft without which it does not happen, or null
   * @return its number
   * @throws Problem if the date is too far ahead, or the caller could not do it now
   */
  long plan(
      String principal,
      Act act,
      Object choice,
      Instant due,
      @Nullable String afterDraft,
      RequestContext context) {
    requireNear(due);
    String owner = context.readPolicy().viewer().value();
    String json = JSON.writeValueAsString(choice);
    if (act != Act.GRACE && act != Act.LOAN) { // of these nothing is to end so far
      requirePossible(principal, act, json, owner, context);
    }
    Long number =
        transactions.execute(_ -> {
          database.update(
              "update planned_act set ended_at = ?, outcome = 'replaced'"
                  + " where principal = ? and act = ? and act <> 'loan' and ended_at is null",
              now(),
              principal,
              act.word());
          return database.queryForObject(
              "insert into planned_act (principal, act, choice, owner, made_at, due_at, after_draft)"
                  + " values (?, ?, ?, ?, ?, ?, ?) returning number",
              Long.class,
              principal,
              act.word(),
              json,
              owner,
              now(),
              due.atOffset(ZoneOffset.UTC),
              afterDraft);
        });
    if (number == null) {
      throw new IllegalStateException("Impossible state: an act without a number");
    }
    return number;
  }

  /**
   * Checks a date before anything is made of it.
   *
   * @throws Problem if it is too far ahead
   */
  void requireNear(@Nullable Instant due) {
    if (due != null && due.isAfter(clock.instant().plus(FARTHEST))) {
      throw Problem.badRequest(
          "Choose an earlier date", "'" + due + "' is more than a year ahead. Choose one before.");
    }
  }

  /** Judged when it is set up, too: with what is missing nobody is surprised at its date. */
  private void requirePossible(
      String principal, Act act, String json, String owner, RequestContext context) {
    List<Change> changes = changes(principal, act, json, context);
    UnattendedDrafts.Answer hindrance = drafts.hindrance(plan(owner, principal, act, changes));
    if (hindrance != null) {
      throw Problem.conflict(
          "It could not be done now",
          hindrance.why() + " Change what you chose, or ask an administrator who may do it.");
    }
  }

  private static UnattendedDrafts.Plan plan(
      String owner, String principal, Act act, List<Change> changes) {
    String what =
        switch (act) {
          case MOVE -> "Move of ";
          case GRACE -> "End of the grace time of ";
          case PART -> "Parting with ";
          case LOAN -> "End of the loan of ";
        };
    return new UnattendedDrafts.Plan(owner, what + principal, "Planned for this date", "", changes);
  }

  /** What an act changes in the model in force. */
  private static List<Change> changes(
      String principal, Act act, String json, RequestContext context) {
    Catalogue in = context.state().engine().catalogue();
    People people = new People(context);
    Principal who = people.require(principal, in);
    return switch (act) {
      case MOVE -> {
        MoveOrder order = JSON.readValue(json, MoveOrder.class);
        yield LifecycleDesk.changes(
            in, who, people.move(in, order), stillThere(order, in, who, people), people);
      }
      case PART -> {
        PartOrder order = JSON.readValue(json, PartOrder.class);
        Map<String, ?> ties = people.ties(in, who).byId();
        yield LifecycleDesk.changes(
            in, who, new PartOrder(null, only(order.fates(), ties.keySet())), people);
      }
      case LOAN -> {
        LoanOrder order = JSON.readValue(json, LoanOrder.class);
        Loan loan =
            new Loan(
                new AccountKey(order.account()),
                order.from(),
                order.until(),
                new PrincipalKey(order.sponsor()));
        yield loan.afterwards(
            in, people.ties(in, who), order.joins().stream().map(GroupKey::new).toList());
      }
      case GRACE -> {
        MoveOrder order = JSON.readValue(json, MoveOrder.class);
        Instant grace = order.grace();
        yield grace == null || !who.account().value().equals(order.account())
            ? List.of()
            : PersonMove.afterGrace(
                in,
                people.ties(in, who),
                order.fates().entrySet().stream()
                    .filter(it -> it.getValue().becomes().equals("until"))
                    .map(Map.Entry::getKey)
                    .toList(),
                grace);
      }
    };
  }

  /** What ended meanwhile needs no fate any more. */
  private static MoveOrder stillThere(MoveOrder order, Catalogue in, Principal who, People people) {
    return new MoveOrder(
        order.account(),
        order.unit(),
        order.manager(),
        order.title(),
        null,
        order.grace(),
        only(order.fates(), people.ties(in, who).byId().keySet()),
        order.joins());
  }

  private static Map<String, FateOrder> only(Map<String, FateOrder> fates, Set<String> ids) {
    return fates.entrySet().stream()
        .filter(it -> ids.contains(it.getKey()))
        .collect(Collectors.toMap(Map.Entry::getKey, Map.Entry::getValue));
  }

  /** {@return what is planned for somebody}, the next first */
  List<LifecycleController.PlannedView> of(String principal, RequestContext context) {
    return rows("where principal = ? and ended_at is null order by due_at", principal).stream()
        .map(it ->
            new LifecycleController.PlannedView(
                it.number(),
                switch (it.act()) {
                  case MOVE ->
                      "Moves to "
                          + context
                              .text()
                              .name(
                                  Kind.ACCOUNTS,
                                  JSON.readValue(it.choice(), MoveOrder.class).account());
                  case GRACE -> "Loses what they keep for the grace time after the move";
                  case PART -> "Leaves";
                  case LOAN ->
                      "Comes back from "
                          + context
                              .text()
                              .name(
                                  Kind.ACCOUNTS,
                                  JSON.readValue(it.choice(), LoanOrder.class).account());
                },
                it.due(),
                context.text().name(Kind.PRINCIPALS, it.owner()),
                it.heldUp()))
        .toList();
  }

  /**
   * Takes an act back before its date.
   *
   * @throws Problem if there is no such act, or the caller may not
   */
  void takeBack(String principal, long number, RequestContext context) {
    new People(context).requireManaged(principal);
    int ended =
        database.update(
            "update planned_act set ended_at = ?, outcome = 'taken back'"
                + " where number = ? and principal = ? and ended_at is null",
            now(),
            number,
            principal);
    if (ended == 0) {
      throw Problem.notFound("This is not planned, or happened meanwhile. Reload the page.");
    }
  }

  @Override
  public String name() {
    return "planned-acts";
  }

  @Override
  public String description() {
    return "Moves people, ends grace times and loans, and parts with people at the dates planned.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.everyFromNow(Duration.ofMinutes(1));
  }

  @Override
  public void run(Instant due) {
    for (Row it : rows("where ended_at is null and due_at <= ? order by due_at", now())) {
      try {
        happen(it);
      } catch (RuntimeException e) {
        LOG.error("The planned act {} failed; it is tried again", it.number(), e);
      }
    }
  }

  private void happen(Row it) {
    if (it.afterDraft() != null) {
      if (drafts.isAlive(it.afterDraft())) {
        return; // the move is not applied so far
      }
      if (drafts.revisionOf(it.afterDraft()) == null) {
        end(it, "not needed");
        return;
      }
    }
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    String draft = it.draft();
    if (draft == null) {
      RequestContext context =
          contexts.of(new Session(new PrincipalKey(it.owner()), now, true, null));
      List<Change> changes;
      try {
        changes = changes(it.principal(), it.act(), it.choice(), context);
      } catch (Problem e) {
        holdUp(it, e.title() + ".");
        return;
      }
      if (changes.isEmpty()) {
        end(it, "nothing to do");
        return;
      }
      UnattendedDrafts.Plan plan = plan(it.owner(), it.principal(), it.act(), changes);
      UnattendedDrafts.Answer hindrance = drafts.hindrance(plan);
      if (hindrance != null) {
        holdUp(it, hindrance.why());
        return;
      }
      long revision = context.state().revision();
      draft =
          transactions.execute(_ -> {
            String begun = drafts.begin(plan, revision);
            database.update(
                "update planned_act set draft = ? where number = ?", begun, it.number());
            return begun;
          });
    }
    UnattendedDrafts.Answer answer = drafts.proceed(String.valueOf(draft), "planned");
    switch (answer) {
      case UnattendedDrafts.Answer.Applied _ -> end(it, "done");
      case UnattendedDrafts.Answer.Waits _, UnattendedDrafts.Answer.HeldUp _ ->
          holdUp(it, answer.why());
      case UnattendedDrafts.Answer.Unfit _ -> {
        drafts.discard(String.valueOf(draft));
        database.update("update planned_act set draft = null where number = ?", it.number());
        holdUp(it, answer.why());
      }
      case UnattendedDrafts.Answer.Declined(String because) -> {
        drafts.discard(String.valueOf(draft));
        end(it, "declined: " + because);
      }
      case UnattendedDrafts.Answer.Discarded _ -> end(it, "discarded");
    }
  }

  private void end(Row it, String outcome) {
    database.update(
        "update planned_act set ended_at = ?, outcome = ?, held_up = null where number = ?",
        now(),
        outcome,
        it.number());
  }

  private void holdUp(Row it, String why) {
    int fresh =
        database.update(
            "update planned_act set held_up = ? where number = ? and held_up is distinct from ?",
            why,
            it.number(),
            why);
    if (fresh == 1) {
      notices.tell(
          it.owner(),
          new Notices.Notice(
              NoticeKind.DATED_WAITS,
              "What you planned for a person was not done at its date. " + why,
              "/people/" + it.principal()));
    }
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    gone.forEach(it -> database.update("delete from planned_act where principal = ?", it.value()));
  }

  private OffsetDateTime now() {
    return clock.instant().truncatedTo(ChronoUnit.SECONDS).atOffset(ZoneOffset.UTC);
  }

  private List<Row> rows(String condition, Object... values) {
    return database.query(
        "select number, principal, act, choice, owner, due_at, after_draft, draft, held_up"
            + " from planned_act "
            + condition,
        (row, _) -> row(row),
        values);
  }

  private static Row row(ResultSet row) throws SQLException {
    return new Row(
        row.getLong("number"),
        row.getString("principal"),
        Act.valueOf(row.getString("act").toUpperCase(Locale.ROOT)),
        row.getString("choice"),
        row.getString("owner"),
        row.getTimestamp("due_at").toInstant(),
        row.getString("after_draft"),
        row.getString("draft"),
        row.getString("held_up"));
  }
}
