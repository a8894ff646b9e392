package mandala.server.erasure;

import java.sql.Array;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mandala.server.audit.Likeness;
import mandala.server.model.ModelProof;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Repository;

/**
 * Blots somebody out of every table that is not the trail, the model or its past: of each column of
 * text, as the database itself lists them, so that what is added later is swept, too.
 */
@Repository
class Sweep {

  /** Has its own digests, is not ours, or ends by itself within a day. */
  private static final Set<String> APART =
      Set.of(
          "trail",
          "trail_head",
          "model_entry",
          "model_copy",
          "erased_part",
          "flyway_schema_history",
          "spring_session",
          "spring_session_attributes",
          "task_queue",
          "work_queue",
          "job_part",
          "job_input");

  /** Files that were signed: they stay as they went out. */
  private static final String REPORTS = "review_report";

  private final JdbcTemplate database;

  Sweep(JdbcTemplate database) {
    this.database = database;
  }

  private record Column(String table, String name, String type) {
    String quoted() {
      return '"' + name + '"';
    }
  }

  /** Blots them out in the running transaction; {@return in how many rows} */
  long blot(NamedPerson who) {
    Map<String, List<Column>> tables = columns();
    String[] likeness = Likeness.of(who.tokens());
    long rows = 0;
    for (Map.Entry<String, List<Column>> it : tables.entrySet()) {
      rows += blot(it.getKey(), it.getValue(), likeness, who);
    }
    return rows;
  }

  private Map<String, List<Column>> columns() {
    Set<String> model = ModelProof.tables(); // in force they are no longer there
    return database
        .query(
            """
            select c.table_name, c.column_name, c.udt_name from information_schema.columns c
              join information_schema.tables t using (table_schema, table_name)
              where table_schema = current_schema() and t.table_type = 'BASE TABLE'
                and c.udt_name in ('text', 'varchar', 'jsonb', '_text')
                and c.is_generated = 'NEVER' order by 1, 2
            """,
            (row, _) -> new Column(row.getString(1), row.getString(2), row.getString(3)))
        .stream()
        .filter(it -> !APART.contains(it.table()) && !model.contains(it.table()))
        .filter(it -> !it.table().equals("erasure") || !it.name().equals("principal"))
        .filter(it -> !it.table().equals(REPORTS) && !NamedPerson.CODES.contains(it.name()))
        .collect(Collectors.groupingBy(Column::table, LinkedHashMap::new, Collectors.toList()));
  }

  private long blot(String table, List<Column> columns, String[] likeness, NamedPerson who) {
    String names = columns.stream().map(Column::quoted).collect(Collectors.joining(", "));
    String texts =
        columns.stream().map(it -> it.quoted() + "::text").collect(Collectors.joining(", "));
    List<@Nullable Object[]> changed = new ArrayList<>();
    database.query(
        "select ctid::text, "
            + names
            + " from "
            + table
            + " where concat_ws(' ', "
            + texts
            + ") ilike any (?) for update",
        row -> {
          List<@Nullable Object> values = new ArrayList<>();
          for (int i = 0; i < columns.size(); i++) {
            values.add(
                columns.get(i).type().equals("_text")
                    ? array(row.getArray(i + 2))
                    : row.getString(i + 2));
          }
          @Nullable Object[] after = blotted(values, who, row.getString(1));
          if (after != null) {
            changed.add(after);
          }
        },
        (Object) likeness);
    String sets =
        columns.stream()
            .map(it -> it.quoted() + " = ?" + (it.type().equals("jsonb") ? "::jsonb" : ""))
            .collect(Collectors.joining(", "));
    database.batchUpdate("update " + table + " set " + sets + " where ctid = ?::tid", changed);
    return changed.size();
  }

  private static String @Nullable [] array(@Nullable Array it) throws SQLException {
    return it == null ? null : (String[]) it.getArray();
  }

  /** The values of a row without them and then where it is, null where nothing changes. */
  private static @Nullable Object @Nullable [] blotted(
      List<@Nullable Object> values, NamedPerson who, String at) {
    boolean about = values.stream().flatMap(Sweep::texts).anyMatch(who::names);
    List<@Nullable Object> after = new ArrayList<>();
    boolean same = true;
    for (@Nullable Object it : values) {
      Object fresh =
          switch (it) {
            case null -> null;
            case String[] list ->
                Arrays.stream(list).map(each -> who.value(each, about)).toArray(String[]::new);
            default -> who.value((String) it, about);
          };
      same &=
          it instanceof String[] list ? Arrays.equals(list, (String[]) fresh) : isSame(it, fresh);
      after.add(fresh);
    }
    after.add(at);
    return same ? null : after.toArray();
  }

  private static boolean isSame(@Nullable Object one, @Nullable Object other) {
    return one == null ? other == null : one.equals(other);
  }

  private static Stream<String> texts(@Nullable Object it) {
    return switch (it) {
      case null -> Stream.empty();
      case String[] list -> Arrays.stream(list);
      default -> Stream.of((String) it);
    };
  }

  /** {@return in how many signed reports they are named} */
  long reports(String principal) {
    Long count =
        database.queryForObject(
            "select count(*) from review_report where ? = any (named)", Long.class, principal);
    return count == null ? 0 : count;
  }
}
