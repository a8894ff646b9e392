package mandala.server.review;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.document.ThingDocument;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Keeps what becomes of decisions that count, and how rounds come to their end. */
@Component
class SettlingStore {

  private final JdbcTemplate database;

  SettlingStore(JdbcTemplate database) {
    this.database = database;
  }

  // ---- items ------------------------------------------------------------------------------------

  /** {@return decisions that count, change the model and are in no draft}, by number */
  List<RoundItem> toCarry(long round, int most) {
    return items(
        "round = ? and state = 'done' and verdict <> 'keep' and outcome is null"
            + " order by coalesce(account, ''), number limit "
            + most,
        round);
  }

  /** {@return the drafts of a round whose items wait}, by id */
  List<String> drafts(long round) {
    return database.query(
        "select distinct draft from review_item where round = ? and outcome = 'waiting'"
            + " and draft is not null order by 1",
        (row, _) -> row.getString(1),
        round);
  }

  /** {@return the items that wait for a draft}, by number */
  List<RoundItem> inDraft(long round, String draft) {
    return items("round = ? and draft = ? and outcome = 'waiting' order by number", round, draft);
  }

  /** {@return what keeps a round from closing}, by number: what is open, undone or in a draft */
  List<RoundItem> unsettled(long round, int most) {
    return items("round = ? and (" + UNSETTLED + ") order by number limit " + most, round);
  }

  /** {@return the decisions of a round that changed the model}, by number */
  List<RoundItem> inForce(long round) {
    return items("round = ? and outcome = 'in-force' order by number", round);
  }

  /** {@return what some rounds asked about somebody}, the newest round first */
  List<RoundItem> aboutPerson(String person, Collection<Long> rounds, int most) {
    return items(
        "about = ? and about_kind = 'principals' and not control and round = any (?)"
            + " order by round desc, number limit "
            + most,
        person,
        rounds.toArray(Long[]::new));
  }

  /** {@return the decisions that took effect in a revision}, by round and number */
  List<RoundItem> ofRevision(long revision) {
    return items("revision = ? order by round, number", revision);
  }

  private static final String UNSETTLED =
      "state in ('open', 'decided') or state = 'done' and not control and verdict <> 'keep'"
          + " and (outcome is null or outcome = 'waiting')";

  private List<RoundItem> items(String where, Object... values) {
    return database.query(
        ReviewStore.ITEM + "where " + where, (row, _) -> ReviewStore.item(row), values);
  }

  /** How many decisions of a round that change the model are where. */
  record Sizes(int toCarry, int waiting, int inForce, int answered, int returned, int left) {}

  Sizes sizes(long round) {
    return Objects.requireNonNull(
        database.queryForObject(
            "select count(*) filter (where state = 'done' and not control and verdict <> 'keep'"
                + " and outcome is null), count(*) filter (where outcome = 'waiting'),"
                + " count(*) filter (where outcome = 'in-force'),"
                + " count(*) filter (where outcome = 'answered'),"
                + " count(*) filter (where returned > 0 and state in ('open', 'decided')),"
                + " count(*) filter (where "
                + UNSETTLED
                + ") from review_item where round = ?",
            (row, _) ->
                new Sizes(
                    row.getInt(1),
                    row.getInt(2),
                    row.getInt(3),
                    row.getInt(4),
                    row.getInt(5),
                    row.getInt(6)),
            round));
  }

  /** {@return the keys of those whose access a round asks about} */
  List<String> subjects(long round) {
    return database.query(
        "select distinct about from review_item where round = ? and about_kind = 'principals'"
            + " and not control order by 1",
        (row, _) -> row.getString(1),
        round);
  }

  /** Marks what a plan takes as in a draft, each with its changes. */
  void waiting(CarryPlan plan, String draft) {
    database.batchUpdate(
        "update review_item set outcome = 'waiting', draft = ?, applied = ? where round = ?"
            + " and number = ? and state = 'done'",
        plan.taken().stream()
            .map(it ->
                new Object[] {
                  draft,
                  ThingDocument.write(plan.each().getOrDefault(it, List.of())),
                  it.round(),
                  it.number()
                })
            .toList());
  }

  /** Notes the draft that is to revert what a decision changed. */
  void reverting(RoundItem it, String draft) {
    database.update(
        "update review_item set draft = ? where round = ? and number = ?",
        draft,
        it.round(),
        it.number());
  }

  /** {@return what a decision changed}, in order; nothing where that is not known */
  List<Change> applied(RoundItem it) {
    return database
        .query(
            "select coalesce(applied, '[]') from review_item where round = ? and number = ?",
            (row, _) -> ThingDocument.changes(row.getString(1)),
            it.round(),
            it.number())
        .getFirst();
  }

  /** Opens an item again whose decision is taken back. */
  void reopened(RoundItem it) {
    database.update(
        "update review_item set state = 'open', verdict = null, reason = null, changes = null,"
            + " with_items = null, expected = null, decided_by = null, decided_at = null,"
            + " outcome = null, draft = null, applied = null, revision = null, remark = null,"
            + " settled_at = null where round = ? and number = ?",
        it.round(),
        it.number());
  }

  /** Marks items as in no draft again. */
  void freed(long round, String draft) {
    database.update(
        "update review_item set outcome = null, draft = null where round = ? and draft = ?"
            + " and outcome = 'waiting'",
        round,
        draft);
  }

  /** Notes what became of a decision. */
  void settled(
      RoundItem it,
      RoundItem.Outcome outcome,
      @Nullable Long revision,
      @Nullable String remark,
      Instant now) {
    database.update(
        "update review_item set state = 'done', outcome = ?, revision = ?, remark = ?,"
            + " settled_at = ? where round = ? and number = ?",
        outcome.word(),
        revision,
        remark,
        ReviewStore.utc(now),
        it.round(),
        it.number());
  }

  /** Has an item decided again, by whoever decided it last. */
  void returned(RoundItem it, String why) {
    database.update(
        "update review_item set state = 'open', changed = false, verdict = null, reason = null,"
            + " changes = null, with_items = null, expected = null, decided_by = null,"
            + " decided_at = null, outcome = null, draft = null, revision = null,"
            + " settled_at = null, remark = ?, returned = returned + 1"
            + " where round = ? and number = ?",
        why,
        it.round(),
        it.number());
  }

  /** Decides an item by the rule of its round. */
  void byRule(RoundItem it, String verdict, String reason, @Nullable String changes, Instant now) {
    database.update(
        "update review_item set state = 'done', verdict = ?, reason = ?, changes = ?,"
            + " decided_by = null, decided_at = ? where round = ? and number = ?",
        verdict,
        reason,
        changes,
        ReviewStore.utc(now),
        it.round(),
        it.number());
  }

  // ---- rounds -----------------------------------------------------------------------------------

  void reminded(long round, Instant now) {
    database.update(
        "update review_round set reminded_at = ? where number = ?", ReviewStore.utc(now), round);
  }

  void late(long round, Instant now) {
    database.update(
        "update review_round set late_since = ? where number = ?", ReviewStore.utc(now), round);
  }

  void carried(long round, Instant now) {
    database.update(
        "update review_round set carried_at = ?, held_up = null where number = ?",
        ReviewStore.utc(now),
        round);
  }

  void owner(long round, String owner) {
    database.update(
        "update review_round set owner = ?, held_up = null where number = ?", owner, round);
  }

  void exposures(long round, long before, long after) {
    database.update(
        "update review_round set exposure_before = ?, exposure_after = ? where number = ?",
        before,
        after,
        round);
  }

  void signed(long round, String by, Instant at) {
    database.update(
        "update review_round set signed_by = ?, signed_at = ? where number = ?",
        by,
        ReviewStore.utc(at),
        round);
  }
}
