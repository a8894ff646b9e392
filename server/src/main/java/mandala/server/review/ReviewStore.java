package mandala.server.review;

import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import mandala.core.review.ReviewItem;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Keeps rounds and their items. */
@Component
class ReviewStore {

  private static final int BATCH = 2_000;

  private static final String ROUND =
      "select number, what, owner, state, begins, ends, made_at, revision, cause, reason,"
          + " ended_at, held_up, reminded_at, late_since, carried_at, exposure_before,"
          + " exposure_after, signed_by, signed_at from review_round ";

  static final String ITEM =
      "select round, number, item, about_kind, about, account, facts, risk, takes, exposure,"
          + " recommended, control, stage, decider, chosen_by, instead_of, later, conflict, state,"
          + " changed, verdict, reason, changes, with_items, decided_by, decided_at, expected,"
          + " outcome, draft, revision, remark, settled_at, returned from review_item ";

  private final JdbcTemplate database;

  ReviewStore(JdbcTemplate database) {
    this.database = database;
  }

  // ---- rounds -----------------------------------------------------------------------------------

  /** {@return the number of a new round, to be made} */
  long add(RoundOrder order, String owner, Round.State state, Instant now, @Nullable String cause) {
    return Objects.requireNonNull(
        database.queryForObject(
            "insert into review_round (title, what, owner, state, begins, ends, made_at, cause)"
                + " values (?, ?, ?, ?, ?, ?, ?, ?) returning number",
            Long.class,
            order.title(),
            ItemJson.write(order),
            owner,
            state.word(),
            utc(order.begins()),
            utc(order.ends()),
            utc(now),
            cause));
  }

  static @Nullable Object utc(@Nullable Instant at) {
    return at == null ? null : at.atOffset(ZoneOffset.UTC);
  }

  Optional<Round> round(long number) {
    return database.query(ROUND + "where number = ?", (row, _) -> round(row), number).stream()
        .findFirst();
  }

  /** {@return all rounds, the newest first} */
  List<Round> rounds() {
    return database.query(ROUND + "order by number desc limit 500", (row, _) -> round(row));
  }

  /** {@return rounds in a state} */
  List<Round> rounds(Round.State state) {
    return database.query(
        ROUND + "where state = ? order by number", (row, _) -> round(row), state.word());
  }

  /** {@return somebody's rounds that are not over} */
  List<Round> alive(String owner) {
    return database.query(
        ROUND + "where owner = ? and state in ('planned', 'making', 'open') order by number",
        (row, _) -> round(row),
        owner);
  }

  /** {@return in which open rounds how many items wait for somebody's decision}, by number */
  Map<Long, Integer> waitingFor(String decider) {
    Map<Long, Integer> waiting = new LinkedHashMap<>();
    database.query(
        "select i.round, count(*) from review_item i join review_round r on r.number = i.round"
            + " where i.decider = ? and i.state = 'open' and r.state = 'open'"
            + " group by i.round order by i.round",
        row -> {
          waiting.put(row.getLong(1), row.getInt(2));
        },
        decider);
    return waiting;
  }

  private static Round round(ResultSet row) throws SQLException {
    long revision = row.getLong(8);
    return new Round(
        row.getLong(1),
        ItemJson.readOrder(row.getString(2)),
        row.getString(3),
        Round.State.of(row.getString(4)),
        row.getTimestamp(5).toInstant(),
        row.getTimestamp(6).toInstant(),
        row.getTimestamp(7).toInstant(),
        revision == 0 ? null : revision,
        row.getString(9),
        row.getString(10),
        instant(row.getTimestamp(11)),
        row.getString(12),
        new Round.Course(
            instant(row.getTimestamp(13)),
            instant(row.getTimestamp(14)),
            instant(row.getTimestamp(15)),
            whole(row, 16),
            whole(row, 17),
            row.getString(18),
            instant(row.getTimestamp(19))));
  }

  private static @Nullable Long whole(ResultSet row, int column) throws SQLException {
    long it = row.getLong(column);
    return row.wasNull() ? null : it;
  }

  private static @Nullable Instant instant(@Nullable Timestamp at) {
    return at == null ? null : at.toInstant();
  }

  /** Has what changes a round wait until the transaction ends. */
  void lock(long round) {
    database.query("select pg_advisory_xact_lock(7021, ?)", _ -> {}, (int) round);
  }

  void opened(long round, long revision) {
    database.update(
        "update review_round set state = 'open', revision = ?, held_up = null where number = ?",
        revision,
        round);
  }

  void ended(long round, Round.State state, @Nullable String reason, Instant now) {
    database.update(
        "update review_round set state = ?, reason = ?, ended_at = ? where number = ?",
        state.word(),
        reason,
        utc(now),
        round);
  }

  void heldUp(long round, String why) {
    database.update("update review_round set held_up = ? where number = ?", why, round);
  }

  // ---- items ------------------------------------------------------------------------------------

  void write(long round, List<RoundItem> items) {
    for (int i = 0; i < items.size(); i += BATCH) {
      List<RoundItem> some = items.subList(i, Math.min(items.size(), i + BATCH));
      database.batchUpdate(
          "insert into review_item (round, number, id, item, about_kind, about, account, facts,"
              + " risk, takes, exposure, recommended, control, stage, decider, chosen_by,"
              + " instead_of, later, conflict, state, changed)"
              + " values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, false)",
          some,
          some.size(),
          (statement, it) -> {
            statement.setLong(1, round);
            statement.setInt(2, it.number());
            statement.setString(3, it.item().id());
            statement.setString(4, ItemJson.write(it.item()));
            statement.setString(5, it.aboutKind());
            statement.setString(6, it.about());
            statement.setString(7, it.account());
            statement.setString(8, it.facts());
            statement.setString(9, it.risk());
            statement.setObject(10, it.takes());
            statement.setLong(11, it.exposure());
            statement.setString(12, it.recommended());
            statement.setBoolean(13, it.control());
            statement.setInt(14, it.stage());
            statement.setString(15, it.decider());
            statement.setString(16, it.chosenBy());
            statement.setString(17, it.insteadOf());
            statement.setArray(
                18,
                statement.getConnection().createArrayOf("text", it.later().toArray(String[]::new)));
            statement.setString(19, it.conflict());
            statement.setString(20, it.state().word());
          });
    }
  }

  static RoundItem item(ResultSet row) throws SQLException {
    return new RoundItem(
        row.getLong(1),
        row.getInt(2),
        ItemJson.read(row.getString(3)),
        row.getString(4),
        row.getString(5),
        row.getString(6),
        row.getString(7),
        row.getString(8),
        whole(row, 9),
        row.getLong(10),
        row.getString(11),
        row.getBoolean(12),
        row.getInt(13),
        row.getString(14),
        row.getString(15),
        row.getString(16),
        texts(row.getArray(17)),
        row.getString(18),
        RoundItem.State.of(row.getString(19)),
        row.getBoolean(20),
        row.getString(21),
        row.getString(22),
        row.getString(23),
        texts(row.getArray(24)),
        row.getString(25),
        instant(row.getTimestamp(26)),
        effect(row));
  }

  private static RoundItem.Effect effect(ResultSet row) throws SQLException {
    String outcome = row.getString(28);
    return new RoundItem.Effect(
        whole(row, 27),
        outcome == null ? null : RoundItem.Outcome.of(outcome),
        row.getString(29),
        whole(row, 30),
        row.getString(31),
        instant(row.getTimestamp(32)),
        row.getInt(33));
  }

  private static List<String> texts(@Nullable Array array) throws SQLException {
    return array == null ? List.of() : Arrays.asList((String[]) array.getArray());
  }

  Optional<RoundItem> item(long round, int number) {
    return database
        .query(ITEM + "where round = ? and number = ?", (row, _) -> item(row), round, number)
        .stream()
        .findFirst();
  }

  /** {@return the same, and has others who change it wait until the transaction ends} */
  Optional<RoundItem> lockedItem(long round, int number) {
    return database
        .query(
            ITEM + "where round = ? and number = ? for update",
            (row, _) -> item(row),
            round,
            number)
        .stream()
        .findFirst();
  }

  /** {@return the items of a round that somebody decides or decided}, by number */
  List<RoundItem> itemsOf(long round, String decider) {
    return database.query(
        ITEM + "where decider = ? and round = ? order by number",
        (row, _) -> item(row),
        decider,
        round);
  }

  /** {@return all items of a round}, by number */
  List<RoundItem> all(long round) {
    return database.query(ITEM + "where round = ? order by number", (row, _) -> item(row), round);
  }

  /** {@return the items of a round that nobody decides}, by number */
  List<RoundItem> ofNobody(long round) {
    return database.query(
        ITEM + "where decider is null and round = ? order by number", (row, _) -> item(row), round);
  }

  /** {@return the items of a round about somebody or something}, by number */
  List<RoundItem> about(long round, String kind, String key) {
    return database.query(
        ITEM + "where round = ? and about = ? and about_kind = ? order by number",
        (row, _) -> item(row),
        round,
        key,
        kind);
  }

  /** {@return open and decided items of open rounds}, by round and number, after one of them */
  List<RoundItem> pending(long round, int after, int most) {
    return database.query(
        ITEM
            + "where round = ? and number > ? and state in ('open', 'decided')"
            + " order by number limit ?",
        (row, _) -> item(row),
        round,
        after,
        most);
  }

  /** {@return ids that rounds asked about, with the facts of the newest} */
  Map<String, String> asked() {
    Map<String, String> asked = new HashMap<>();
    database.query(
        "select id, facts from review_item i join review_round r on r.number = i.round"
            + " where not control and r.state <> 'cancelled' and i.state = 'done'"
            + " order by i.round",
        row -> {
          asked.put(row.getString(1), row.getString(2));
        });
    return asked;
  }

  /** {@return who made each assignment}, by its key, as far as the trail knows */
  Map<String, String> givers() {
    Map<String, String> givers = new HashMap<>();
    database.query(
        "select distinct on (thing) thing, who from trail where kind = 'assignments'"
            + " and act = 'changed' and before is null and who is not null"
            + " order by thing, seq desc",
        row -> {
          givers.put(row.getString(1), row.getString(2));
        });
    return givers;
  }

  // ---- decisions --------------------------------------------------------------------------------

  void decide(RoundItem it, DecisionDesk.Kept decision, String by, Instant now) {
    database.update(
        "update review_item set state = 'decided', changed = false, verdict = ?, reason = ?,"
            + " changes = ?, with_items = ?, facts = ?, expected = ?, decided_by = ?,"
            + " decided_at = ?, remark = null"
            + " where round = ? and number = ?",
        decision.verdict(),
        decision.reason(),
        decision.changes(),
        decision.with().toArray(String[]::new),
        decision.facts(),
        decision.expected(),
        by,
        utc(now),
        it.round(),
        it.number());
  }

  void undo(RoundItem it) {
    database.update(
        "update review_item set state = 'open', verdict = null, reason = null, changes = null,"
            + " with_items = null, expected = null, decided_by = null, decided_at = null"
            + " where round = ? and number = ?",
        it.round(),
        it.number());
  }

  void done(RoundItem it) {
    database.update(
        "update review_item set state = 'done' where round = ? and number = ?",
        it.round(),
        it.number());
  }

  /** Goes on to the next stage, with another decider. */
  void nextStage(RoundItem it) {
    database.update(
        "update review_item set state = 'open', stage = stage + 1, decider = nullif(later[1], ''),"
            + " chosen_by = 'stage', instead_of = null, later = later[2:], verdict = null,"
            + " reason = null, changes = null, with_items = null, decided_by = null,"
            + " decided_at = null where round = ? and number = ?",
        it.round(),
        it.number());
  }

  void gone(long round, int number) {
    database.update(
        "update review_item set state = 'gone' where round = ? and number = ?", round, number);
  }

  void changed(RoundItem it, String facts) {
    database.update(
        "update review_item set state = 'open', changed = true, facts = ?, verdict = null,"
            + " reason = null, changes = null, with_items = null, decided_by = null,"
            + " decided_at = null where round = ? and number = ?",
        facts,
        it.round(),
        it.number());
  }

  void pass(RoundItem it, String to, String by) {
    database.update(
        "update review_item set decider = ?, chosen_by = ?, instead_of = null, state = 'open',"
            + " verdict = null, reason = null, changes = null, with_items = null,"
            + " decided_by = null, decided_at = null where round = ? and number = ?",
        to,
        by,
        it.round(),
        it.number());
  }

  /** Has a deputy decide an item for somebody who is absent. */
  void standIn(RoundItem it, String deputy, String of) {
    database.update(
        "update review_item set decider = ?, instead_of = ? where round = ? and number = ?",
        deputy,
        of,
        it.round(),
        it.number());
  }

  /**
   * Something that was done with an item, or said of it.
   *
   * @param whom to whom it went, or who is asked
   */
  record Act(
      String act,
      @Nullable String who,
      Instant at,
      @Nullable String verdict,
      @Nullable String said,
      @Nullable String whom) {}

  void note(long round, int number, Act it) {
    database.update(
        "insert into review_act (round, item, act, who, at, verdict, said, whom)"
            + " values (?, ?, ?, ?, ?, ?, ?, ?)",
        round,
        number,
        it.act(),
        it.who(),
        utc(it.at()),
        it.verdict(),
        it.said(),
        it.whom());
  }

  /** {@return what was done with an item and said of it}, the oldest first */
  List<Act> acts(long round, int number) {
    return database.query(
        "select act, who, at, verdict, said, whom from review_act where round = ? and item = ?"
            + " order by number",
        (row, _) -> act(row),
        round,
        number);
  }

  private static Act act(ResultSet row) throws SQLException {
    return new Act(
        row.getString(1),
        row.getString(2),
        row.getTimestamp(3).toInstant(),
        row.getString(4),
        row.getString(5),
        row.getString(6));
  }

  /** {@return the same of all items of a round}, by number */
  Map<Integer, List<Act>> actsOf(long round) {
    Map<Integer, List<Act>> acts = new HashMap<>();
    database.query(
        "select act, who, at, verdict, said, whom, item from review_act where round = ?"
            + " order by number",
        row -> {
          acts.computeIfAbsent(row.getInt(7), _ -> new ArrayList<>()).add(act(row));
        },
        round);
    return acts;
  }

  /** A question that somebody is asked about an item. */
  record Asked(long round, int item, String who, String said, Instant at) {}

  /** {@return what somebody is asked and has not answered}, of open rounds */
  List<Asked> askedOf(String whom) {
    return database.query(
        "select a.round, a.item, a.who, a.said, a.at from review_act a"
            + " join review_round r on r.number = a.round"
            + " where a.act = 'asked' and a.whom = ? and r.state = 'open' and not exists ("
            + "   select 1 from review_act b where b.round = a.round and b.item = a.item"
            + "   and b.act = 'answered' and b.number > a.number) order by a.number",
        (row, _) ->
            new Asked(
                row.getLong(1),
                row.getInt(2),
                row.getString(3),
                row.getString(4),
                row.getTimestamp(5).toInstant()),
        whom);
  }

  // ---- reviewers --------------------------------------------------------------------------------

  /** {@return whether any item of a round is somebody's to decide} */
  boolean isReviewer(long round, String who) {
    return Boolean.TRUE.equals(
        database.queryForObject(
            "select exists (select 1 from review_item where decider = ? and round = ?)",
            Boolean.class,
            who,
            round));
  }

  /**
   * {@return whoever runs the open rounds in which somebody decides, and whom they decide about}
   */
  List<String> acquaintances(String decider) {
    return database.query(
        "select r.owner from review_round r where r.state = 'open' and exists (select 1 from"
            + " review_item i where i.round = r.number and i.decider = ?)"
            + " union select i.about from review_item i join review_round r on r.number = i.round"
            + " where i.decider = ? and i.about_kind = 'principals' and r.state = 'open'"
            + " and i.state in ('open', 'decided')",
        (row, _) -> row.getString(1),
        decider,
        decider);
  }

  void answer(long round, String who, String expectation, String said, Instant now) {
    database.update(
        "insert into review_answer (round, who, expectation, said, at) values (?, ?, ?, ?, ?)"
            + " on conflict (round, who, expectation) do update set said = excluded.said,"
            + " at = excluded.at",
        round,
        who,
        expectation,
        said,
        utc(now));
  }

  /** {@return what somebody answered for expectations}, by key */
  Map<String, String> answers(long round, String who) {
    Map<String, String> answers = new HashMap<>();
    database.query(
        "select expectation, said from review_answer where round = ? and who = ?",
        row -> {
          answers.put(row.getString(1), row.getString(2));
        },
        round,
        who);
    return answers;
  }

  /** {@return the item of a round with an id} */
  Optional<ReviewItem> byId(long round, String id) {
    return database
        .query(
            "select item from review_item where round = ? and id = ?",
            (row, _) -> ItemJson.read(row.getString(1)),
            round,
            id)
        .stream()
        .findFirst();
  }
}
