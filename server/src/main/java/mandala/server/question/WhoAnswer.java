package mandala.server.question;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;

/**
 * Who can.
 *
 * @param pairs how many pairs of permission and place were asked about
 * @param anonymous whether anybody can without signing in
 * @param allowed who can for themselves, those with most first
 * @param blocked who is granted it and lacks a gate
 * @param denied who is denied it
 * @param delegates who can for another
 * @param could who cannot now, and how they could
 * @param routes who can, by what gives it; told where one permission and one place are asked about,
 *     and no more than {@value HoldersService#MOST_TRACED} can
 * @param elsewhere whether there are others, whom the viewer may not see
 */
record WhoAnswer(
    String what,
    String where,
    Instant at,
    boolean secondFactor,
    long pairs,
    boolean anonymous,
    List<WhoHolder> allowed,
    List<WhoHolder> blocked,
    List<WhoHolder> denied,
    List<WhoDelegate> delegates,
    List<WhoCould> could,
    List<WhoRoute> routes,
    boolean elsewhere) {

  /**
   * What gives it, and to whom; who has it by several routes stands in each.
   *
   * @param subject to whom it is given, {@code said} what and where
   * @param source key of the assignment or bridge
   */
  record WhoRoute(String subject, String source, String said, List<String> people) {}

  /** Somebody; {@code rights} of the pairs that were asked about. */
  record WhoHolder(
      String key, String name, String kind, @Nullable String title, String account, long rights) {}

  /** Who acts, and for whom. */
  record WhoDelegate(String actor, String actorName, String actedFor, String actedForName) {}

  /**
   * Who could.
   *
   * @param how {@code second-factor}, or {@code switching-on}
   */
  record WhoCould(WhoHolder holder, String how) {}

  /** {@return a line for each holder} */
  ExportTable table() {
    List<List<Object>> rows = new ArrayList<>();
    allowed.forEach(it -> rows.add(row("can" + by(it), it)));
    delegates.forEach(it ->
        rows.add(
            List.of(
                "can, acting for " + it.actedForName(), it.actor(), it.actorName(), "", "", 0)));
    could.forEach(it -> rows.add(row("could: " + it.how(), it.holder())));
    blocked.forEach(it -> rows.add(row("lacks a gate", it)));
    denied.forEach(it -> rows.add(row("is denied", it)));
    return new ExportTable(
        "who-can", List.of("how", "key", "name", "title", "account", "of pairs"), rows);
  }

  private String by(WhoHolder it) {
    String by =
        routes.stream()
            .filter(route -> route.people().contains(it.key()))
            .map(route -> route.subject() + ", " + route.said())
            .collect(Collectors.joining("; "));
    return by.isEmpty() ? "" : ", by " + by;
  }

  private static List<Object> row(String how, WhoHolder it) {
    String title = it.title();
    return List.of(
        how, it.key(), it.name(), title == null ? it.kind() : title, it.account(), it.rights());
  }
}
