package mandala.server.lifecycle;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import mandala.core.lifecycle.WatchRule;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.Departure;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Keeps the rules that watch, whom they warned, and what they did. */
@Component
class WatchRules implements Departure {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private static final String RULE =
      "select number, what, owner, made_at, draft, people, held_up from watch_rule where ended_at is null ";

  private final JdbcTemplate database;

  WatchRules(JdbcTemplate database) {
    this.database = database;
  }

  /**
   * A rule that has not ended.
   *
   * @param draft that carries out what it found last
   * @param people on whom that draft acts
   * @param heldUp why it waits for its owner
   */
  record Kept(
      long number,
      WatchOrder order,
      String owner,
      Instant madeAt,
      @Nullable String draft,
      int people,
      @Nullable String heldUp) {}

  /** What a rule did; the revision is null of warnings and reports. */
  record Done(Instant at, String act, int people, @Nullable Long revision) {}

  private static Kept kept(ResultSet row) throws SQLException {
    return new Kept(
        row.getLong(1),
        JSON.readValue(row.getString(2), WatchOrder.class),
        row.getString(3),
        row.getTimestamp(4).toInstant(),
        row.getString(5),
        row.getInt(6),
        row.getString(7));
  }

  /** {@return the rules that have not ended}, the oldest first */
  List<Kept> all() {
    return database.query(RULE + "order by number", (row, _) -> kept(row));
  }

  /** {@return a rule}, and has others who change it wait until the transaction ends */
  Optional<Kept> locked(long number) {
    return database
        .query(RULE + "and number = ? for update", (row, _) -> kept(row), number)
        .stream()
        .findFirst();
  }

  /** {@return the number of a new rule} */
  long add(WatchOrder order, String owner, Instant now) {
    return Objects.requireNonNull(
        database.queryForObject(
            "insert into watch_rule (what, owner, made_at) values (?, ?, ?) returning number",
            Long.class,
            JSON.writeValueAsString(order),
            owner,
            now.atOffset(ZoneOffset.UTC)));
  }

  void change(long number, WatchOrder order, String owner) {
    database.update(
        "update watch_rule set what = ?, owner = ?, held_up = null where number = ?",
        JSON.writeValueAsString(order),
        owner,
        number);
  }

  void end(long number, Instant now) {
    database.update(
        "update watch_rule set ended_at = ? where number = ?",
        now.atOffset(ZoneOffset.UTC),
        number);
  }

  /** Notes the draft that carries out what a rule found; null where none does. */
  void draft(long number, @Nullable String draft, int people) {
    database.update(
        "update watch_rule set draft = ?, people = ? where number = ?", draft, people, number);
  }

  /** Notes why a rule waits; null where it no longer does. {@return whether that is new} */
  boolean heldUp(long number, @Nullable String why) {
    return database.update(
            "update watch_rule set held_up = ? where number = ? and held_up is distinct from ?",
            why,
            number,
            why)
        == 1;
  }

  /** {@return whom a rule warned, and when}, by key; of who was seen since, nothing */
  Map<String, Instant> warned(long number, List<WatchRule.Hit> hits) {
    Map<String, Instant> since = new HashMap<>();
    hits.forEach(it -> since.put(it.who().key().value(), it.since()));
    Map<String, Instant> warned = new HashMap<>();
    database.query(
        "select principal, since, warned_at from watch_warning where rule = ?",
        row -> {
          String who = row.getString(1);
          if (row.getTimestamp(2).toInstant().equals(since.get(who))) {
            warned.put(who, row.getTimestamp(3).toInstant());
          }
        },
        number);
    return warned;
  }

  /** Notes a warning. {@return whether nobody did before} */
  boolean warned(long number, String principal, Instant since, Instant now) {
    return database.update(
            "insert into watch_warning (rule, principal, since, warned_at) values (?, ?, ?, ?)"
                + " on conflict do nothing",
            number,
            principal,
            since.atOffset(ZoneOffset.UTC),
            now.atOffset(ZoneOffset.UTC))
        == 1;
  }

  void did(long number, String act, int people, @Nullable Long revision, Instant now) {
    database.update(
        "insert into watch_act (rule, at, act, people, revision) values (?, ?, ?, ?, ?)",
        number,
        now.atOffset(ZoneOffset.UTC),
        act,
        people,
        revision);
  }

  /** {@return what a rule did last}, the newest first */
  List<Done> done(long number) {
    return database.query(
        "select at, act, people, revision from watch_act where rule = ? order by at desc, number"
            + " desc limit 20",
        (row, _) ->
            new Done(
                row.getTimestamp(1).toInstant(),
                row.getString(2),
                row.getInt(3),
                row.getObject(4, Long.class)),
        number);
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    for (PrincipalKey it : gone) {
      database.update("delete from watch_warning where principal = ?", it.value());
    }
  }
}
