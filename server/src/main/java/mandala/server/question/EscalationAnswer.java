package mandala.server.question;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import mandala.server.platform.ExportTable;

/**
 * How one person could.
 *
 * @param held whether it is held already
 * @param name of the person
 * @param what the permission in words
 * @param where the place in words
 * @param paths the shortest, those that ask for the fewest approvals first
 * @param changes how many changes a path was allowed
 * @param whole whether every path of that length was tried
 * @param hidden whether there are more, through what the viewer may not read
 */
record EscalationAnswer(
    boolean held,
    String name,
    String what,
    String where,
    List<PathView> paths,
    int changes,
    boolean whole,
    boolean hidden) {

  /** One after the other; {@code approvals} of its steps need a second person. */
  record PathView(List<StepView> steps, long approvals) {}

  /**
   * One thing to do.
   *
   * @param kind {@code change}, {@code sign-in} or {@code act-for}
   * @param said it as sentences
   * @param uses the rights over the model that it uses; none where it is one's own affair
   * @param approval why a second person must approve: {@code widens} or {@code critical}; none
   *     where nobody must
   * @param approvers names of some who could
   * @param moreApprovers whether others could, too
   */
  record StepView(
      String kind,
      List<String> said,
      List<AdminRightView> uses,
      List<String> approval,
      List<String> approvers,
      boolean moreApprovers) {}

  /** A right over the model that is used, and where. */
  record AdminRightView(String permission, String permissionName, String resource, String place) {}

  /**
   * {@return a line for each step of each path}
   *
   * @param who key of the person
   */
  ExportTable table(String who) {
    List<List<Object>> rows = new ArrayList<>();
    for (int i = 0; i < paths.size(); i++) {
      rows(who, i + 1, paths.get(i), rows);
    }
    return table(rows);
  }

  static ExportTable table(List<List<Object>> rows) {
    return new ExportTable(
        "paths",
        List.of("who", "path", "step", "what", "by", "second person because", "who could approve"),
        rows);
  }

  static void rows(String who, int number, PathView path, List<List<Object>> rows) {
    for (int i = 0; i < path.steps().size(); i++) {
      StepView step = path.steps().get(i);
      rows.add(
          List.of(
              who,
              number,
              i + 1,
              String.join("; ", step.said()),
              step.uses().stream()
                  .map(it -> it.permissionName() + " on " + it.place())
                  .collect(Collectors.joining("; ")),
              String.join(", ", step.approval()),
              String.join(", ", step.approvers())));
    }
  }
}
