package mandala.server.question;

import java.util.ArrayList;
import java.util.List;
import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;

/**
 * Who could get it, and does not have it.
 *
 * @param people those with the fewest changes first
 * @param looked at how many of how many {@code able} to change anything was looked; null for a
 *     viewer who may not read all of them
 * @param whole whether at all of them
 * @param changes how many changes a path was allowed
 * @param hidden whether others could whom, or whose path, the viewer may not see
 */
record EscalatorsAnswer(
    String what,
    String where,
    List<EscalatorView> people,
    @Nullable Integer looked,
    @Nullable Integer able,
    boolean whole,
    int changes,
    boolean hidden) {

  /** Somebody, and the shortest path. */
  record EscalatorView(String key, String name, String account, EscalationAnswer.PathView path) {}

  /** {@return a line for each step of the shortest path of each} */
  ExportTable table() {
    List<List<Object>> rows = new ArrayList<>();
    people.forEach(it -> EscalationAnswer.rows(it.key(), 1, it.path(), rows));
    return EscalationAnswer.table(rows);
  }
}
