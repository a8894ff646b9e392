package mandala.server.review;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Keeps the rules that make rounds by events. */
@Component
class EventRules {

  private static final String RULE =
      "select number, what, owner, made_at, seen, held_up,"
          + " (select count(*) from review_round r where r.rule = review_rule.number)"
          + " from review_rule where ended_at is null ";

  private final JdbcTemplate database;

  EventRules(JdbcTemplate database) {
    this.database = database;
  }

  /**
   * A rule that has not ended.
   *
   * @param seen the revision up to which it has looked
   * @param heldUp why it waits for its owner
   * @param rounds how many it has made
   */
  record Kept(
      long number,
      EventRule rule,
      String owner,
      Instant madeAt,
      long seen,
      @Nullable String heldUp,
      int rounds) {}

  private static Kept kept(ResultSet row) throws SQLException {
    return new Kept(
        row.getLong(1),
        ItemJson.readRule(row.getString(2)),
        row.getString(3),
        row.getTimestamp(4).toInstant(),
        row.getLong(5),
        row.getString(6),
        row.getInt(7));
  }

  /** {@return the rules that have not ended}, the oldest first */
  List<Kept> all() {
    return database.query(RULE + "order by number", (row, _) -> kept(row));
  }

  Optional<Kept> one(long number) {
    return database.query(RULE + "and number = ?", (row, _) -> kept(row), number).stream()
        .findFirst();
  }

  /** {@return the same, and has others who change it wait until the transaction ends} */
  Optional<Kept> locked(long number) {
    return database
        .query(RULE + "and number = ? for update", (row, _) -> kept(row), number)
        .stream()
        .findFirst();
  }

  /** {@return the number of a new rule}, which looks at what comes after a revision */
  long add(EventRule rule, String owner, long revision, Instant now) {
    return Objects.requireNonNull(
        database.queryForObject(
            "insert into review_rule (what, owner, made_at, seen) values (?, ?, ?, ?)"
                + " returning number",
            Long.class,
            ItemJson.write(rule),
            owner,
            now.atOffset(ZoneOffset.UTC),
            revision));
  }

  void change(long number, EventRule rule, String owner) {
    database.update(
        "update review_rule set what = ?, owner = ?, held_up = null where number = ?",
        ItemJson.write(rule),
        owner,
        number);
  }

  void end(long number, Instant now) {
    database.update(
        "update review_rule set ended_at = ? where number = ?",
        now.atOffset(ZoneOffset.UTC),
        number);
  }

  void seen(long number, long revision) {
    database.update(
        "update review_rule set seen = ?, held_up = null where number = ?", revision, number);
  }

  void heldUp(long number, String why) {
    database.update("update review_rule set held_up = ? where number = ?", why, number);
  }

  /** Notes that a rule made a round. */
  void made(long number, long round) {
    database.update("update review_round set rule = ? where number = ?", number, round);
  }

  /**
   * {@return what its rounds asked about}, by id with the facts
   *
   * @param open only what still waits in an open round
   */
  Map<String, String> asked(long number, boolean open) {
    Map<String, String> asked = new HashMap<>();
    database.query(
        "select i.id, i.facts from review_item i join review_round r on r.number = i.round"
            + " where r.rule = ? and r.state <> 'cancelled'"
            + (open ? " and r.state = 'open' and i.state = 'open'" : "")
            + " order by i.round",
        row -> {
          asked.put(row.getString(1), row.getString(2));
        },
        number);
    return asked;
  }
}
