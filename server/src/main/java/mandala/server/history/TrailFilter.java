package mandala.server.history;

import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import mandala.core.model.Supplied;
import mandala.core.model.key.Key;
import mandala.core.model.key.ResourceKey;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Instants;
import org.jspecify.annotations.Nullable;

/**
 * Which lines of the trail: all that is given must fit. It becomes part of a query, values apart.
 *
 * @param who whose, by key
 * @param act what kind of thing done
 * @param kind of which kind of thing, {@code thing} which one
 * @param place a resource: about it or what is below it
 * @param text in what was said, in the names or keys
 * @param from an instant, {@code until} one after it
 * @param revision of which revision
 */
record TrailFilter(
    @Nullable String who,
    @Nullable String act,
    @Nullable String kind,
    @Nullable String thing,
    @Nullable String place,
    @Nullable String text,
    @Nullable String from,
    @Nullable String until,
    @Nullable Long revision) {

  /** One's own lines: not those of somebody who had the key before and was removed. */
  private static final String OWN =
      "(who = ? and seq > coalesce((select max(gone.seq) from gone_principal gone"
          + " where gone.principal = ?), 0))";

  /** {@return the keys of the accounts whose trail the viewer may read} */
  static List<String> readable(RequestContext context) {
    return context.state().engine().catalogue().accounts().keySet().stream()
        .filter(it -> context.readPolicy().may(Supplied.TRAIL_READ, ResourceKey.of(it)))
        .map(Key::value)
        .toList();
  }

  /** A condition and its values. */
  record Condition(String sql, List<Object> values) {}

  /**
   * {@return the condition for what a viewer may read}: their own lines, and those of accounts
   * whose trail they may read; lines of no account for those who may read any
   */
  Condition condition(String viewer, List<String> accounts) {
    List<String> sql = new ArrayList<>();
    List<Object> values = new ArrayList<>();
    sql.add(
        accounts.isEmpty()
            ? OWN
            : "(" + OWN + " or accounts && string_to_array(?, ' ') or cardinality(accounts) = 0)");
    values.add(viewer);
    values.add(viewer);
    if (!accounts.isEmpty()) {
      values.add(String.join(" ", accounts));
    }
    equal("who", who, sql, values);
    equal("act", act, sql, values);
    if (act == null || act.isBlank()) {
      sql.add("act <> 'revision'"); // holds revisions to the trail; tells readers nothing
    }
    equal("kind", kind, sql, values);
    equal("thing", thing, sql, values);
    if (revision != null) {
      sql.add("revision = ?");
      values.add(revision);
    }
    if (given(place)) {
      sql.add("? = any (places)");
      values.add(place);
    }
    instant("at >= ?", from, sql, values);
    instant("at < ?", until, sql, values);
    if (text != null && !text.isBlank()) {
      sql.add("position(? in lower(concat_ws(' ', said, name, thing, who_name, who))) > 0");
      values.add(text.strip().toLowerCase(Locale.ROOT));
    }
    return new Condition(String.join(" and ", sql), values);
  }

  private static boolean given(@Nullable String value) {
    return value != null && !value.isBlank();
  }

  private static void instant(
      String condition, @Nullable String value, List<String> sql, List<Object> values) {
    Instant instant = Instants.of(value);
    if (instant != null) {
      sql.add(condition);
      values.add(instant.atOffset(ZoneOffset.UTC));
    }
  }

  private static void equal(
      String column, @Nullable String value, List<String> sql, List<Object> values) {
    if (value != null && !value.isBlank()) {
      sql.add(column + " = ?");
      values.add(value);
    }
  }
}
