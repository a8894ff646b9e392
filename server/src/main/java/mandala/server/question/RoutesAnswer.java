package mandala.server.question;

import java.util.ArrayList;
import java.util.List;
import mandala.core.explain.Route;
import mandala.core.model.Kind;
import mandala.document.Naming;
import mandala.document.RouteText;
import mandala.server.platform.ExportTable;
import mandala.server.question.AccessAnswer.Named;
import org.jspecify.annotations.Nullable;

/**
 * Why, and why not.
 *
 * @param actingFor for whom, where somebody is acted for
 * @param moreNear how many more would give it but do not
 */
record RoutesAnswer(
    String verdict,
    Named principal,
    Named permission,
    Named resource,
    @Nullable Named actingFor,
    List<RouteView> live,
    List<RouteView> near,
    int moreNear) {

  /** A route: its steps from the person to the resource, and what stands against it. */
  record RouteView(
      List<RouteText.Told> steps,
      long otherPaths,
      @Nullable String delegation,
      List<String> obstacles) {

    static RouteView of(Route route, RouteText text, Naming naming) {
      return new RouteView(
          text.steps(route),
          route.otherPaths(),
          route.delegation() == null || !naming.tells(Kind.DELEGATIONS, route.delegation().value())
              ? null
              : text.delegation(route.delegation()),
          route.obstacles().stream().map(text::obstacle).toList());
    }
  }

  /** {@return a line for each step of each route} */
  ExportTable table() {
    List<List<Object>> rows = new ArrayList<>();
    List<RouteView> all = new ArrayList<>(live);
    all.addAll(near);
    for (int i = 0; i < all.size(); i++) {
      for (RouteText.Told step : all.get(i).steps()) {
        rows.add(
            List.of(
                i + 1,
                i < live.size() ? "yes" : "no",
                step.kind(),
                step.key(),
                step.name(),
                step.remark(),
                String.join("; ", all.get(i).obstacles())));
      }
    }
    return new ExportTable(
        "routes", List.of("route", "gives it now", "step", "key", "name", "remark", "but"), rows);
  }
}
