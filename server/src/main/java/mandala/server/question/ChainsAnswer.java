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
 * @param chains the shortest, those that ask for the fewest approvals first
 * @param changes how many changes a chain was allowed
 * @param whole whether every chain of that length was tried
 * @param hidden whether there are more, through what the viewer may not read
 */
record ChainsAnswer(
    boolean held,
    String name,
    String what,
    String where,
    List<ChainView> chains,
    int changes,
    boolean whole,
    boolean hidden) {

  /** One after the other; {@code approvals} of its links need a second person. */
  record ChainView(List<LinkView> links, long approvals) {}

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
  record LinkView(
      String kind,
      List<String> said,
      List<LeverView> uses,
      List<String> approval,
      List<String> approvers,
      boolean moreApprovers) {}

  /** A right over the model that is used, and where. */
  record LeverView(String permission, String permissionName, String resource, String place) {}

  /**
   * {@return a line for each link of each path}
   *
   * @param who key of the person
   */
  ExportTable table(String who) {
    List<List<Object>> rows = new ArrayList<>();
    for (int i = 0; i < chains.size(); i++) {
      rows(who, i + 1, chains.get(i), rows);
    }
    return table(rows);
  }

  static ExportTable table(List<List<Object>> rows) {
    return new ExportTable(
        "chains",
        List.of("who", "chain", "step", "what", "by", "second person because", "who could approve"),
        rows);
  }

  static void rows(String who, int number, ChainView chain, List<List<Object>> rows) {
    for (int i = 0; i < chain.links().size(); i++) {
      LinkView link = chain.links().get(i);
      rows.add(
          List.of(
              who,
              number,
              i + 1,
              String.join("; ", link.said()),
              link.uses().stream()
                  .map(it -> it.permissionName() + " on " + it.place())
                  .collect(Collectors.joining("; ")),
              String.join(", ", link.approval()),
              String.join(", ", link.approvers())));
    }
  }
}
