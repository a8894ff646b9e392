package mandala.server.history;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Reads the trail. */
@Repository
class TrailReader {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final JdbcTemplate database;

  TrailReader(DataSource source) {
    database = new JdbcTemplate(source);
    database.setFetchSize(500);
  }

  /**
   * A line as it is kept.
   *
   * @param accounts keys of the accounts concerned
   */
  record Kept(TrailLine line, List<String> accounts) {}

  /** A line of the trail. */
  record TrailLine(
      long seq,
      Instant at,
      @Nullable String who,
      @Nullable String whoName,
      @Nullable String actingFor,
      String act,
      @Nullable Long revision,
      @Nullable String kind,
      @Nullable String thing,
      @Nullable String name,
      String said,
      @Nullable JsonNode before,
      @Nullable JsonNode after,
      @Nullable String address,
      String hash) {}

  /** {@return the newest lines that fit, before a number} */
  List<Kept> lines(TrailFilter.Condition condition, long before, int most) {
    List<Object> values = new ArrayList<>(condition.values());
    values.add(before);
    values.add(most);
    return database.query(
        "select * from trail where " + condition.sql() + " and seq < ? order by seq desc limit ?",
        (row, _) -> line(row),
        values.toArray());
  }

  long count(TrailFilter.Condition condition) {
    Long count =
        database.queryForObject(
            "select count(*) from trail where " + condition.sql(),
            Long.class,
            condition.values().toArray());
    return count == null ? 0 : count;
  }

  /** Tells every line that fits, the newest first, a few hundred at a time. */
  @Transactional(readOnly = true)
  public void each(TrailFilter.Condition condition, Consumer<Kept> sink) {
    database.query(
        "select * from trail where " + condition.sql() + " order by seq desc",
        row -> {
          sink.accept(line(row));
        },
        condition.values().toArray());
  }

  private static Kept line(ResultSet row) throws SQLException {
    long revision = row.getLong("revision");
    List<String> accounts = List.of((String[]) row.getArray("accounts").getArray());
    return new Kept(told(row, revision), accounts);
  }

  private static TrailLine told(ResultSet row, long revision) throws SQLException {
    return new TrailLine(
        row.getLong("seq"),
        row.getObject("at", OffsetDateTime.class).toInstant(),
        row.getString("who"),
        row.getString("who_name"),
        row.getString("acting_for"),
        row.getString("act"),
        revision == 0 ? null : revision,
        row.getString("kind"),
        row.getString("thing"),
        row.getString("name"),
        row.getString("said"),
        json(row.getString("before")),
        json(row.getString("after")),
        row.getString("address"),
        row.getString("hash"));
  }

  private static @Nullable JsonNode json(@Nullable String text) {
    return text == null ? null : JSON.readTree(text);
  }
}
