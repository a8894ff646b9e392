package mandala.server.use;

import java.sql.Array;
import java.sql.Date;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.excess.UseCoverage;
import mandala.core.model.Permission;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.UseColumns;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** The sources of use, as they are kept. */
@Component
class UseSources {

  private static final String ALL =
      "select number, key, name, account, permissions, places, since, columns from use_source";

  /** The source that Mandala is itself: it reports all use of its own permissions. */
  static final String OWN = "mandala";

  /** The number of {@link #OWN}. */
  static final int OWN_NUMBER = 0;

  private static final Set<PermissionKey> OWN_PERMISSIONS =
      Supplied.permissions(List.of()).stream().map(Permission::key).collect(Collectors.toSet());

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final JdbcTemplate database;

  UseSources(JdbcTemplate database) {
    this.database = database;
  }

  /** {@return all of them}, by name */
  List<UseSource> all() {
    return database.query(ALL + " order by name, key", (row, _) -> source(row));
  }

  /** {@return the source of a key}, if there is one */
  Optional<UseSource> find(String key) {
    return database.query(ALL + " where key = ?", (row, _) -> source(row), key).stream()
        .findFirst();
  }

  /** {@return what all of them report} */
  UseCoverage coverage() {
    List<UseCoverage.Part> parts = new ArrayList<>();
    parts.add(new UseCoverage.Part(OWN_PERMISSIONS, null, ownSince()));
    all().forEach(it -> parts.add(it.part()));
    return new UseCoverage(parts);
  }

  /** {@return the first day of which Mandala reported its own use whole} */
  LocalDate ownSince() {
    return database
        .query("select own_since from use_policy", (row, _) -> row.getDate(1).toLocalDate())
        .getFirst();
  }

  /** Notes since when Mandala reports its own use. */
  void ownSince(LocalDate day) {
    database.update("update use_policy set own_since = ?", Date.valueOf(day));
  }

  private static UseSource source(ResultSet row) throws SQLException {
    Set<String> permissions = texts(row.getArray(5));
    return new UseSource(
        row.getInt(1),
        row.getString(2),
        row.getString(3),
        new AccountKey(row.getString(4)),
        permissions == null
            ? null
            : permissions.stream().map(PermissionKey::new).collect(Collectors.toSet()),
        Set.copyOf(
            Optional.ofNullable(texts(row.getArray(6))).orElse(Set.of()).stream()
                .map(ResourceKey::new)
                .toList()),
        row.getDate(7).toLocalDate(),
        JSON.readValue(row.getString(8), UseColumns.class));
  }

  private static @Nullable Set<String> texts(@Nullable Array array) throws SQLException {
    return array == null
        ? null
        : Arrays.stream((Object[]) array.getArray())
            .map(String::valueOf)
            .collect(Collectors.toSet());
  }

  /** Keeps a source, in place of the one of its key if there is one; its number does not count. */
  void keep(UseSource it) {
    database.update(
        """
        insert into use_source (key, name, account, permissions, places, since, columns)
        values (?, ?, ?, ?, ?, ?, ?::jsonb)
        on conflict (key) do update set name = excluded.name, account = excluded.account,
          permissions = excluded.permissions, places = excluded.places, since = excluded.since,
          columns = excluded.columns
        """,
        it.key(),
        it.name(),
        it.account().value(),
        it.permissions() == null ? null : keys(it.permissions()),
        keys(it.places()),
        Date.valueOf(it.since()),
        JSON.writeValueAsString(it.columns()));
  }

  private static String[] keys(Set<? extends Key> keys) {
    return keys.stream().map(Key::value).sorted().toArray(String[]::new);
  }

  /** Deletes a source; what it reported stays. */
  void delete(String key) {
    database.update("delete from use_source where key = ?", key);
  }
}
