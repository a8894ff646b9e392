package mandala.server.reconcile;

import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import mandala.core.model.key.AccountKey;
import mandala.document.HeldReader;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Keeps connected systems, versions of their terms, and when they were compared. */
@Component
class SystemStore {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private static final String ALL =
      "select key, name, account, identity_column, entitlement_column, place_column, terms"
          + " from connected_system";

  private final JdbcTemplate database;

  SystemStore(JdbcTemplate database) {
    this.database = database;
  }

  // ---- systems ----------------------------------------------------------------------------------

  /** {@return all of them}, by name */
  List<ConnectedSystem> all() {
    return database.query(ALL + " order by name, key", (row, _) -> system(row));
  }

  Optional<ConnectedSystem> find(String key) {
    return database.query(ALL + " where key = ?", (row, _) -> system(row), key).stream()
        .findFirst();
  }

  private static ConnectedSystem system(ResultSet row) throws SQLException {
    return new ConnectedSystem(
        row.getString(1),
        row.getString(2),
        new AccountKey(row.getString(3)),
        new HeldReader.Columns(row.getString(4), row.getString(5), row.getString(6)),
        row.getObject(7, Integer.class));
  }

  /** Keeps a system, in place of the one of its key; which terms count stays. */
  void keep(ConnectedSystem it) {
    database.update(
        """
        insert into connected_system
          (key, name, account, identity_column, entitlement_column, place_column)
        values (?, ?, ?, ?, ?, ?)
        on conflict (key) do update set name = excluded.name, account = excluded.account,
          identity_column = excluded.identity_column,
          entitlement_column = excluded.entitlement_column, place_column = excluded.place_column
        """,
        it.key(),
        it.name(),
        it.account().value(),
        it.columns().identity(),
        it.columns().entitlement(),
        it.columns().place());
  }

  /** Deletes a system with all that belongs to it. */
  void delete(String key) {
    database.update("delete from connected_system where key = ?", key);
  }

  /** Has what changes a system come one after the other, until the transaction ends. */
  void lock(String key) {
    database.query("select pg_advisory_xact_lock(hashtext('system ' || ?))", _ -> {}, key);
  }

  // ---- terms ------------------------------------------------------------------------------------

  /**
   * A version of what terms mean.
   *
   * @param triedAt when it was last tried on a sample
   */
  record TermsVersion(int version, Instant madeAt, String madeBy, @Nullable Instant triedAt) {}

  /** {@return the versions of a system's terms}, the newest first */
  List<TermsVersion> terms(String system) {
    return database.query(
        "select version, made_at, made_by, tried_at from system_terms where system = ?"
            + " order by version desc",
        (row, _) ->
            new TermsVersion(
                row.getInt(1),
                row.getTimestamp(2).toInstant(),
                row.getString(3),
                instant(row.getTimestamp(4))),
        system);
  }

  /** {@return the table of a version, as it was sent} */
  byte[] content(String system, int version) {
    return Objects.requireNonNull(
            database.queryForObject(
                "select content from system_terms where system = ? and version = ?",
                String.class,
                system,
                version))
        .getBytes(StandardCharsets.UTF_8);
  }

  private int next(String newest, String system) {
    Integer last = database.queryForObject(newest, Integer.class, system);
    return last == null ? 1 : last + 1;
  }

  /** Adds a version, and returns its number; the system must be locked. */
  int addTerms(String system, byte[] content, String by, Instant at) {
    int version = next("select max(version) from system_terms where system = ?", system);
    database.update(
        "insert into system_terms (system, version, made_at, made_by, content)"
            + " values (?, ?, ?, ?, ?)",
        system,
        version,
        at.atOffset(ZoneOffset.UTC),
        by,
        new String(content, StandardCharsets.UTF_8));
    return version;
  }

  void tried(String system, int version, Instant at) {
    database.update(
        "update system_terms set tried_at = ? where system = ? and version = ?",
        at.atOffset(ZoneOffset.UTC),
        system,
        version);
  }

  void use(String system, int version) {
    database.update("update connected_system set terms = ? where key = ?", version, system);
  }

  // ---- what is held, and comparisons ------------------------------------------------------------

  byte @Nullable [] held(String system) {
    return database
        .query(
            "select content from system_held where system = ?", (row, _) -> row.getBytes(1), system)
        .stream()
        .findFirst()
        .orElse(null);
  }

  void keepHeld(String system, byte[] content) {
    database.update(
        "insert into system_held (system, content) values (?, ?)"
            + " on conflict (system) do update set content = excluded.content",
        system,
        content);
  }

  /**
   * When a system was compared.
   *
   * @param sent whether a table came in for it
   * @param terms version of the terms by which
   * @param revision of the model
   * @param untranslated lines by what had no meaning
   */
  record Comparison(
      int number,
      Instant at,
      String by,
      boolean sent,
      int terms,
      long revision,
      int lines,
      int agreeing,
      Map<String, Integer> untranslated) {}

  /** {@return when a system was compared}, the newest first */
  List<Comparison> comparisons(String system) {
    return database.query(
        "select number, compared_at, asked_by, sent, terms, revision, lines, agreeing, untranslated"
            + " from system_comparison where system = ? order by number desc",
        (row, _) ->
            new Comparison(
                row.getInt(1),
                row.getTimestamp(2).toInstant(),
                row.getString(3),
                row.getBoolean(4),
                row.getInt(5),
                row.getLong(6),
                row.getInt(7),
                row.getInt(8),
                JSON.readValue(row.getString(9), new TypeReference<TreeMap<String, Integer>>() {})),
        system);
  }

  /** {@return the number of the next comparison}; the system must be locked */
  int nextComparison(String system) {
    return next("select max(number) from system_comparison where system = ?", system);
  }

  /** {@return when a system was last compared}, null before the first time */
  @Nullable Instant comparedAt(String system) {
    return instant(
        database.queryForObject(
            "select max(compared_at) from system_comparison where system = ?",
            Timestamp.class,
            system));
  }

  void add(String system, Comparison it) {
    database.update(
        "insert into system_comparison (system, number, compared_at, asked_by, sent, terms,"
            + " revision, lines, agreeing, untranslated) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        system,
        it.number(),
        it.at().atOffset(ZoneOffset.UTC),
        it.by(),
        it.sent(),
        it.terms(),
        it.revision(),
        it.lines(),
        it.agreeing(),
        JSON.writeValueAsString(it.untranslated()));
  }

  /**
   * Whom an identity meant.
   *
   * @param lines how many it had
   * @param first number of the comparison since which it means them
   * @param gone number of the first that met it no more, or meaning another; null while it does
   * @param held what the system holds for it, in its terms
   */
  record Identity(
      String identity,
      @Nullable String who,
      int lines,
      int first,
      @Nullable Integer gone,
      List<String> held) {}

  /** {@return whom a system's identities meant}, in the order of identities and of time */
  List<Identity> identities(String system) {
    return database.query(
        "select identity, who, lines, first, gone, held from system_identity where system = ?"
            + " order by identity collate \"C\", first",
        (row, _) ->
            new Identity(
                row.getString(1),
                row.getString(2),
                row.getInt(3),
                row.getInt(4),
                row.getObject(5, Integer.class),
                List.of((String[]) row.getArray(6).getArray())),
        system);
  }

  /** Writes those that are new, or other than before. */
  void writeIdentities(String system, List<Identity> some) {
    database.batchUpdate(
        """
        insert into system_identity (system, identity, who, lines, first, gone, held)
        values (?, ?, ?, ?, ?, ?, ?)
        on conflict (system, identity, first) do update set lines = excluded.lines,
          gone = excluded.gone, held = excluded.held
        """,
        some,
        1_000,
        (statement, it) -> {
          statement.setString(1, system);
          statement.setString(2, it.identity());
          statement.setString(3, it.who());
          statement.setInt(4, it.lines());
          statement.setInt(5, it.first());
          statement.setObject(6, it.gone());
          statement.setArray(7, array(statement.getConnection(), it.held()));
        });
  }

  static @Nullable Instant instant(@Nullable Timestamp it) {
    return it == null ? null : it.toInstant();
  }

  static java.sql.Array array(Connection connection, List<String> texts) throws SQLException {
    return connection.createArrayOf("text", texts.toArray());
  }
}
