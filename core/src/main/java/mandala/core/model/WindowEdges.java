package mandala.core.model;

import java.time.Instant;
import java.util.NavigableSet;
import java.util.TreeSet;

/**
 * The instants at which a window of a model begins or ends. Between two of them nothing changes by
 * the passing of time alone (section 2).
 */
public final class WindowEdges {

  private WindowEdges() {}

  /** {@return the edges of every window of a model}, ascending, modifiable */
  public static NavigableSet<Instant> of(Catalogue catalogue) {
    NavigableSet<Instant> edges = new TreeSet<>();
    catalogue.principals().values().forEach(it -> add(it, edges));
    catalogue.guests().forEach(it -> add(it, edges));
    catalogue.assignments().values().forEach(it -> add(it, edges));
    catalogue.bridges().values().forEach(it -> add(it, edges));
    catalogue.delegations().values().forEach(it -> add(it, edges));
    catalogue.activations().forEach(it -> add(it, edges));
    return edges;
  }

  /** Adds the edges of a thing's window; things without one add none. */
  public static void add(Thing thing, NavigableSet<Instant> edges) {
    Window window =
        switch (thing) {
          case Principal it -> it.window();
          case Guest it -> it.window();
          case Assignment it -> it.window();
          case Bridge it -> it.window();
          case Delegation it -> it.window();
          case Activation it -> it.window();
          default -> Window.ALWAYS;
        };
    if (window.from() != null) {
      edges.add(window.from());
    }
    if (window.until() != null) {
      edges.add(window.until());
    }
  }
}
