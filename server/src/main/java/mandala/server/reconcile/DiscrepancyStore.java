package mandala.server.reconcile;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.Discrepancy;
import mandala.document.DiscrepancyText;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Keeps discrepancies, and what people said of them. */
@Component
class DiscrepancyStore {

  private static final int BATCH = 1_000;

  private final JdbcTemplate database;

  DiscrepancyStore(JdbcTemplate database) {
    this.database = database;
  }

  /** {@return those of a system about somebody}, that are gone too */
  List<KeptDiscrepancy> all(String system) {
    return database.query(
        "select kind, who, permission, missing, extra, identity, lines, first, gone, held"
            + " from discrepancy where system = ? order by id collate \"C\", first",
        (row, _) -> kept(row),
        system);
  }

  private static KeptDiscrepancy kept(ResultSet row) throws SQLException {
    return new KeptDiscrepancy(
        discrepancy(row), row.getInt(8), row.getObject(9, Integer.class), texts(row, 10));
  }

  private static Discrepancy discrepancy(ResultSet row) throws SQLException {
    String kind = row.getString(1);
    String identity = row.getString(6);
    PrincipalKey who = new PrincipalKey(row.getString(2));
    if (kind.equals("orphaned")) {
      return new Discrepancy.Orphaned(identity, who, row.getInt(7));
    }
    PermissionKey permission = new PermissionKey(row.getString(3));
    List<ResourceKey> missing = texts(row, 4).stream().map(ResourceKey::new).toList();
    List<ResourceKey> extra = texts(row, 5).stream().map(ResourceKey::new).toList();
    return switch (kind) {
      case "missing" -> new Discrepancy.Missing(who, permission, missing);
      case "extra" -> new Discrepancy.Extra(who, permission, extra);
      case "different" -> new Discrepancy.Different(who, permission, missing, extra);
      default -> throw new IllegalStateException("Impossible state: a discrepancy '" + kind + "'");
    };
  }

  private static List<String> texts(ResultSet row, int column) throws SQLException {
    return Arrays.asList((String[]) row.getArray(column).getArray());
  }

  /** Writes those that are new, or other than before. */
  void write(String system, List<KeptDiscrepancy> some) {
    database.batchUpdate(
        """
        insert into discrepancy (system, id, first, gone, kind, who, permission, missing, extra,
          identity, lines, held)
        values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
        on conflict (system, id, first) do update set gone = excluded.gone,
          missing = excluded.missing, extra = excluded.extra, lines = excluded.lines,
          held = excluded.held
        """,
        some,
        BATCH,
        (statement, it) -> {
          Discrepancy of = it.it();
          PrincipalKey who = of.who();
          PermissionKey permission = of.permission();
          statement.setString(1, system);
          statement.setString(2, of.id());
          statement.setInt(3, it.first());
          statement.setObject(4, it.gone());
          statement.setString(5, DiscrepancyText.kind(of));
          statement.setString(6, who == null ? null : who.value());
          statement.setString(7, permission == null ? null : permission.value());
          statement.setArray(8, SystemStore.array(statement.getConnection(), keys(of.missing())));
          statement.setArray(9, SystemStore.array(statement.getConnection(), keys(of.extra())));
          statement.setString(10, of.identity());
          statement.setInt(11, permission == null ? of.size() : 0);
          statement.setArray(12, SystemStore.array(statement.getConnection(), it.held()));
        });
  }

  private static List<String> keys(List<? extends Key> keys) {
    return keys.stream().map(Key::value).toList();
  }

  // ---- what people said -------------------------------------------------------------------------

  /**
   * What people said of a discrepancy.
   *
   * @param until when its acceptance ends, null where nobody accepts it
   * @param size how much it was when it was accepted
   * @param draft id of the draft that settles it
   */
  record Said(@Nullable Instant until, int size, @Nullable String reason, @Nullable String draft) {

    static final Said NOTHING = new Said(null, 0, null, null);
  }

  /** {@return what people said}, by id */
  Map<String, Said> said(String system) {
    Map<String, Said> said = new HashMap<>();
    database.query(
        "select id, accepted_until, accepted_size, reason, draft from discrepancy_state"
            + " where system = ?",
        row -> {
          said.put(
              row.getString(1),
              new Said(
                  SystemStore.instant(row.getTimestamp(2)),
                  row.getInt(3),
                  row.getString(4),
                  row.getString(5)));
        },
        system);
    return said;
  }

  void accept(
      String system, String id, Instant until, int size, String reason, String by, Instant at) {
    database.update(
        """
        insert into discrepancy_state (system, id, accepted_until, accepted_size, reason,
          accepted_by, accepted_at)
        values (?, ?, ?, ?, ?, ?, ?)
        on conflict (system, id) do update set accepted_until = excluded.accepted_until,
          accepted_size = excluded.accepted_size, reason = excluded.reason,
          accepted_by = excluded.accepted_by, accepted_at = excluded.accepted_at
        """,
        system,
        id,
        until.atOffset(ZoneOffset.UTC),
        size,
        reason,
        by,
        at.atOffset(ZoneOffset.UTC));
  }

  void reopen(String system, String id) {
    database.update(
        "update discrepancy_state set accepted_until = null, accepted_size = null, reason = null,"
            + " accepted_by = null, accepted_at = null where system = ? and id = ?",
        system,
        id);
  }

  void drafted(String system, String id, String draft) {
    database.update(
        "insert into discrepancy_state (system, id, draft) values (?, ?, ?)"
            + " on conflict (system, id) do update set draft = excluded.draft",
        system,
        id,
        draft);
  }
}
