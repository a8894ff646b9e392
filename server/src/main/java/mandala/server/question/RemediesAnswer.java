package mandala.server.question;

import java.util.ArrayList;
import java.util.List;
import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * The remedies; of those that would change what the viewer may not read nothing is told.
 *
 * @param give what would give it where it is not allowed, with the least else first
 * @param end what must go where it is allowed: what removes before what denies, the cheapest first
 * @param bySecondFactor whether signing in with a second factor would be enough
 * @param hidden whether there are other remedies
 */
record RemediesAnswer(
    String verdict, List<WayView> give, List<WayView> end, boolean bySecondFactor, boolean hidden) {

  /**
   * One remedy.
   *
   * @param said its changes as sentences
   * @param edits the same as edits for {@code /api/drafts/open/edits}
   * @param own how many rights of the principal it changes, what was asked for included
   * @param others how many rights of how many {@code people} else it changes, of whom the viewer
   *     may ask
   * @param elsewhere whether it changes rights of others, too
   * @param denies whether it leaves a deny behind, which overrides what is granted later too
   */
  record WayView(
      List<String> said,
      List<WayEdit> edits,
      long own,
      long others,
      int people,
      boolean elsewhere,
      boolean denies) {}

  /** An edit of one thing, as the draft takes it. */
  record WayEdit(
      String kind,
      @Nullable String key,
      @Nullable JsonNode before,
      @Nullable JsonNode after,
      @Nullable Boolean remove) {}

  /** {@return a line for each remediation} */
  ExportTable table() {
    List<List<Object>> rows = new ArrayList<>();
    give.forEach(it -> rows.add(row("would give it", it)));
    end.forEach(it -> rows.add(row("would end it", it)));
    return new ExportTable(
        "remedies",
        List.of("what it does", "changes", "rights of theirs", "rights of others", "others"),
        rows);
  }

  private static List<Object> row(String does, WayView it) {
    return List.of(does, String.join("; ", it.said()), it.own(), it.others(), it.people());
  }
}
