package mandala.server.review;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Keeps who decides for somebody who is absent. */
@Component
class Deputies {

  private final JdbcTemplate database;

  Deputies(JdbcTemplate database) {
    this.database = database;
  }

  /** Who decides for somebody from when until when. */
  record Deputy(String person, String deputy, Instant begins, Instant ends) {}

  Optional<Deputy> of(String person) {
    return database
        .query(
            "select person, deputy, begins, ends from review_deputy where person = ?",
            (row, _) -> deputy(row),
            person)
        .stream()
        .findFirst();
  }

  private static Deputy deputy(ResultSet row) throws SQLException {
    return new Deputy(
        row.getString(1),
        row.getString(2),
        row.getTimestamp(3).toInstant(),
        row.getTimestamp(4).toInstant());
  }

  /** {@return deputies by whom they stand in for, at an instant} */
  Map<String, String> at(Instant at) {
    Map<String, String> deputies = new HashMap<>();
    database.query(
        "select person, deputy from review_deputy where begins <= ? and ends > ?",
        row -> {
          deputies.put(row.getString(1), row.getString(2));
        },
        at.atOffset(ZoneOffset.UTC),
        at.atOffset(ZoneOffset.UTC));
    return deputies;
  }

  void keep(Deputy it) {
    database.update(
        "insert into review_deputy (person, deputy, begins, ends) values (?, ?, ?, ?)"
            + " on conflict (person) do update set deputy = excluded.deputy,"
            + " begins = excluded.begins, ends = excluded.ends",
        it.person(),
        it.deputy(),
        it.begins().atOffset(ZoneOffset.UTC),
        it.ends().atOffset(ZoneOffset.UTC));
  }

  void remove(String person) {
    database.update("delete from review_deputy where person = ?", person);
  }
}
