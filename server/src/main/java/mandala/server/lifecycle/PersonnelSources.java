package mandala.server.lifecycle;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import mandala.core.lifecycle.PersonnelList.What;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Keeps how lists of the personnel office are read, and what was taken of them. */
@Component
class PersonnelSources {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private static final String SOURCE =
      "select number, what, owner, made_at from personnel_source where ended_at is null ";

  private static final String LIST =
      "select number, source, at, given_by, hash, joins, changes, returns, leaves, faulty, holds, state,"
          + " held_up, content, draft, revision from personnel_list ";

  /** What became of a list. */
  enum State {
    /** It would remove too many: somebody looks at it first. */
    STOPPED,
    /** It is no table, or can't become a draft. */
    UNREADABLE,
    /** A draft has what it changes. */
    PROPOSED,
    /** Its draft is to be applied by itself, and can't be so far. */
    WAITS,
    APPLIED,
    /** It changed nothing. */
    NOTHING,
    /** Somebody looked at it and wants it not. */
    DISMISSED,
    DECLINED,
    DISCARDED;

    String word() {
      return name().toLowerCase(Locale.ROOT);
    }

    /** {@return whether something may still become of it} */
    boolean isOpen() {
      return this == STOPPED || this == PROPOSED || this == WAITS;
    }
  }

  /** A list that has not ended, and with whose rights a file of the folder is taken. */
  record Source(long number, PersonnelOrder order, String owner, Instant madeAt) {}

  /**
   * What was taken of a list once.
   *
   * @param by who gave it by hand, null of a file of the folder
   * @param holds how many people it owned before it
   * @param content the file, only while it is stopped
   */
  record Taken(
      long number,
      long source,
      Instant at,
      @Nullable String by,
      String hash,
      int joins,
      int changes,
      int returns,
      int leaves,
      int faulty,
      int holds,
      State state,
      @Nullable String heldUp,
      @Nullable String content,
      @Nullable String draft,
      @Nullable Long revision) {}

  private final JdbcTemplate database;

  PersonnelSources(JdbcTemplate database) {
    this.database = database;
  }

  private static Source source(ResultSet row) throws SQLException {
    return new Source(
        row.getLong(1),
        JSON.readValue(row.getString(2), PersonnelOrder.class),
        row.getString(3),
        row.getTimestamp(4).toInstant());
  }

  private static Taken taken(ResultSet row) throws SQLException {
    long revision = row.getLong(16);
    return new Taken(
        row.getLong(1),
        row.getLong(2),
        row.getTimestamp(3).toInstant(),
        row.getString(4),
        row.getString(5),
        row.getInt(6),
        row.getInt(7),
        row.getInt(8),
        row.getInt(9),
        row.getInt(10),
        row.getInt(11),
        State.valueOf(row.getString(12).toUpperCase(Locale.ROOT)),
        row.getString(13),
        row.getString(14),
        row.getString(15),
        revision == 0 ? null : revision);
  }

  /** {@return the lists that have not ended}, the oldest first */
  List<Source> all() {
    return database.query(SOURCE + "order by number", (row, _) -> source(row));
  }

  /** {@return a list}, and has others who change it wait until the transaction ends */
  Optional<Source> locked(long number) {
    return database
        .query(SOURCE + "and number = ? for update", (row, _) -> source(row), number)
        .stream()
        .findFirst();
  }

  /** Has others who set up lists wait until the transaction ends. */
  void lockAll() {
    database.execute("lock table personnel_source in share row exclusive mode");
  }

  /** {@return the number of a new list} */
  long add(PersonnelOrder order, String owner, Instant now) {
    return Objects.requireNonNull(
        database.queryForObject(
            "insert into personnel_source (what, owner, made_at) values (?, ?, ?) returning number",
            Long.class,
            JSON.writeValueAsString(order),
            owner,
            now.atOffset(ZoneOffset.UTC)));
  }

  void change(long number, PersonnelOrder order, String owner) {
    database.update(
        "update personnel_source set what = ?, owner = ? where number = ?",
        JSON.writeValueAsString(order),
        owner,
        number);
  }

  /** Ends a list; what waits of it is dismissed. */
  void end(long number, Instant now) {
    database.update(
        "update personnel_source set ended_at = ? where number = ?",
        now.atOffset(ZoneOffset.UTC),
        number);
    database.update(
        "update personnel_list set state = 'dismissed', content = null, held_up = null"
            + " where source = ? and state in ('stopped', 'waits')",
        number);
  }

  /** {@return what was taken of a list}, the newest first */
  List<Taken> taken(long source, int most) {
    return database.query(
        LIST + "where source = ? order by number desc limit ?",
        (row, _) -> taken(row),
        source,
        most);
  }

  /** {@return one taking of a list} */
  Optional<Taken> one(long source, long number) {
    return database
        .query(LIST + "where source = ? and number = ?", (row, _) -> taken(row), source, number)
        .stream()
        .findFirst();
  }

  /**
   * Notes what was taken.
   *
   * @param read null of what could not be read
   * @param content the file, of what is stopped
   * @return its number
   */
  long note(
      long source,
      Instant at,
      @Nullable String by,
      String hash,
      PersonnelReader.@Nullable Read read,
      State state,
      @Nullable String heldUp,
      @Nullable String content,
      @Nullable String draft) {
    return Objects.requireNonNull(
        database.queryForObject(
            "insert into personnel_list (source, at, given_by, hash, joins, changes, returns, leaves,"
                + " faulty, holds, state, held_up, content, draft)"
                + " values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) returning number",
            Long.class,
            source,
            at.atOffset(ZoneOffset.UTC),
            by,
            hash,
            read == null ? 0 : read.count(What.JOINS),
            read == null ? 0 : read.count(What.CHANGES),
            read == null ? 0 : read.count(What.RETURNS),
            read == null ? 0 : read.count(What.LEAVES),
            read == null ? 0 : read.faulty().size(),
            read == null ? 0 : read.holds(),
            state.word(),
            heldUp,
            content,
            draft));
  }

  /** Notes what became of a list; {@return whether that is new} */
  boolean became(long number, State state, @Nullable String heldUp, @Nullable Long revision) {
    return database.update(
            "update personnel_list set state = ?, held_up = ?, revision = ?, content = null"
                + " where number = ? and (state, held_up) is distinct from (?, ?)",
            state.word(),
            heldUp,
            revision,
            number,
            state.word(),
            heldUp)
        == 1;
  }
}
