package mandala.server.finding;

import java.sql.Array;
import java.sql.Connection;
import java.sql.Date;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.detect.Detection;
import mandala.core.detect.Detector;
import mandala.core.detect.Detectors;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.server.excess.ExcessStudies;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Keeps findings, and what people said of them. */
@Component
class FindingStore {

  private static final int BATCH = 2_000;

  private final JdbcTemplate database;
  private volatile @Nullable Known known;

  FindingStore(JdbcTemplate database) {
    this.database = database;
  }

  /**
   * What was found at the last look.
   *
   * @param cut detectors that did not look at everything
   * @param findings the worst first, then those that were resolved, the newest first
   */
  record Known(Instant lookedAt, long revision, Set<Detector> cut, List<KeptFinding> findings) {}

  private static final Known NOTHING = new Known(Instant.MIN, 0, Set.of(), List.of());

  // ---- looks ------------------------------------------------------------------------------------

  ExcessStudies.@Nullable Basis basis() {
    return database
        .query(
            "select revision, use_basis, window_days, day from finding_look",
            (row, _) -> ExcessStudies.Basis.of(row))
        .stream()
        .findFirst()
        .orElse(null);
  }

  /** Has looks kept one after the other, until the transaction ends. */
  void lock() {
    database.query("select pg_advisory_xact_lock(hashtext('findings'))", _ -> {});
  }

  void looked(ExcessStudies.Basis basis, Instant at, Set<Detector> cut) {
    database.update("delete from finding_look");
    database.update(
        "insert into finding_look (revision, use_basis, window_days, day, looked_at, cut)"
            + " values (?, ?, ?, ?, ?, ?)",
        basis.revision(),
        basis.use(),
        basis.days(),
        Date.valueOf(basis.day()),
        at.atOffset(ZoneOffset.UTC),
        cut.stream().map(Detector::name).sorted().toArray(String[]::new));
  }

  /** {@return all that is kept}, read again after each look */
  Known known() {
    Known last = known;
    Instant lookedAt =
        database
            .query(
                "select looked_at from finding_look", (row, _) -> row.getTimestamp(1).toInstant())
            .stream()
            .findFirst()
            .orElse(null);
    if (lookedAt == null) {
      return NOTHING;
    }
    if (last == null || !last.lookedAt().equals(lookedAt)) {
      last = read();
      known = last;
    }
    return last;
  }

  /** {@return all that is kept}, as it is now */
  Known read() {
    List<KeptFinding> all =
        database.query(
            "select trouble, risk, weight, people, homes, since, revision, resolved_at, within from finding",
            (row, _) -> finding(row));
    List<KeptFinding> order = new ArrayList<>(all);
    order.sort(
        Comparator.comparing((KeptFinding it) -> it.resolvedAt() != null)
            .thenComparing(
                it -> it.resolvedAt() == null ? Instant.MAX : it.resolvedAt(),
                Comparator.reverseOrder())
            .thenComparing(KeptFinding::it, Detectors.WORST_FIRST));
    return Objects.requireNonNull(
        database.queryForObject(
            "select looked_at, revision, cut from finding_look",
            (row, _) ->
                new Known(
                    row.getTimestamp(1).toInstant(),
                    row.getLong(2),
                    texts(row.getArray(3)).stream()
                        .map(Detector::valueOf)
                        .collect(Collectors.toSet()),
                    order)));
  }

  private static KeptFinding finding(ResultSet row) throws SQLException {
    Timestamp resolved = row.getTimestamp(8);
    return new KeptFinding(
        new Detection(
            TroubleJson.read(row.getString(1)),
            Permission.Risk.valueOf(row.getString(2)),
            row.getLong(3),
            texts(row.getArray(4)).stream().map(PrincipalKey::new).collect(Collectors.toSet()),
            accounts(row.getArray(9)),
            accounts(row.getArray(5))),
        row.getTimestamp(6).toInstant(),
        row.getLong(7),
        resolved == null ? null : resolved.toInstant());
  }

  private static Set<AccountKey> accounts(Array array) throws SQLException {
    return texts(array).stream().map(AccountKey::new).collect(Collectors.toSet());
  }

  private static List<String> texts(Array array) throws SQLException {
    return Arrays.asList((String[]) array.getArray());
  }

  /** Writes those that are new or other than before. */
  void write(Collection<KeptFinding> findings) {
    List<KeptFinding> all = List.copyOf(findings);
    for (int i = 0; i < all.size(); i += BATCH) {
      List<KeptFinding> some = all.subList(i, Math.min(all.size(), i + BATCH));
      database.batchUpdate(
          "insert into finding (id, detector, trouble, risk, weight, people, homes, since,"
              + " revision, resolved_at, within) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)"
              + " on conflict (id) do update set trouble = excluded.trouble,"
              + " risk = excluded.risk, weight = excluded.weight, people = excluded.people,"
              + " homes = excluded.homes, since = excluded.since, revision = excluded.revision,"
              + " resolved_at = excluded.resolved_at, within = excluded.within",
          some,
          some.size(),
          (statement, it) -> {
            Connection connection = statement.getConnection();
            Detection found = it.it();
            statement.setString(1, found.id());
            statement.setString(2, found.trouble().detector().key());
            statement.setString(3, TroubleJson.write(found.trouble()));
            statement.setString(4, found.risk().name());
            statement.setLong(5, found.weight());
            statement.setArray(6, connection.createArrayOf("text", keys(found.people())));
            statement.setArray(7, connection.createArrayOf("text", keys(found.homes())));
            statement.setObject(8, it.since().atOffset(ZoneOffset.UTC));
            statement.setLong(9, it.revision());
            statement.setObject(
                10, it.resolvedAt() == null ? null : it.resolvedAt().atOffset(ZoneOffset.UTC));
            statement.setArray(11, connection.createArrayOf("text", keys(found.within())));
          });
    }
  }

  private static String[] keys(Set<? extends Key> keys) {
    return keys.stream().map(Key::value).sorted().toArray(String[]::new);
  }

  /** Deletes what was resolved before an instant, with what was said of it. */
  void forget(Instant before) {
    database.update(
        "with old as (delete from finding where resolved_at < ? returning id)"
            + " delete from finding_state using old where finding_state.id = old.id",
        before.atOffset(ZoneOffset.UTC));
  }

  // ---- what people said -------------------------------------------------------------------------

  Map<String, FindingState> states() {
    Map<String, FindingState> states = new HashMap<>();
    database.query(
        "select id, owner, accepted_until, accepted_by, accepted_at, accepted_risk,"
            + " accepted_weight, reason, draft from finding_state",
        row -> {
          states.put(row.getString(1), state(row));
        });
    return states;
  }

  private static FindingState state(ResultSet row) throws SQLException {
    Timestamp until = row.getTimestamp(3);
    return new FindingState(
        row.getString(2),
        until == null
            ? null
            : new FindingState.Acceptance(
                until.toInstant(),
                row.getString(4),
                row.getTimestamp(5).toInstant(),
                Permission.Risk.valueOf(row.getString(6)),
                row.getLong(7),
                row.getString(8)),
        row.getString(9));
  }

  void accept(String id, FindingState.Acceptance it) {
    database.update(
        "insert into finding_state (id, accepted_until, accepted_by, accepted_at, accepted_risk,"
            + " accepted_weight, reason) values (?, ?, ?, ?, ?, ?, ?)"
            + " on conflict (id) do update set accepted_until = excluded.accepted_until,"
            + " accepted_by = excluded.accepted_by, accepted_at = excluded.accepted_at,"
            + " accepted_risk = excluded.accepted_risk,"
            + " accepted_weight = excluded.accepted_weight, reason = excluded.reason",
        id,
        it.until().atOffset(ZoneOffset.UTC),
        it.by(),
        it.at().atOffset(ZoneOffset.UTC),
        it.risk().name(),
        it.weight(),
        it.reason());
  }

  void reopen(String id) {
    database.update(
        "update finding_state set accepted_until = null, accepted_by = null, accepted_at = null,"
            + " accepted_risk = null, accepted_weight = null, reason = null where id = ?",
        id);
  }

  void own(String id, @Nullable String owner) {
    database.update(
        "insert into finding_state (id, owner) values (?, ?)"
            + " on conflict (id) do update set owner = excluded.owner",
        id,
        owner);
  }

  void drafted(String id, String draft) {
    database.update(
        "insert into finding_state (id, draft) values (?, ?)"
            + " on conflict (id) do update set draft = excluded.draft",
        id,
        draft);
  }
}
