package mandala.core.model.check;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;

/**
 * Finds the cycles of a graph: a depth-first walk with a path of its own, so that deep graphs need
 * no deep stack. Each cycle is found once, from the first of its nodes in the given order; of
 * cycles that share an edge back, one is told. Linear in nodes and edges.
 */
final class Cycles {

  private Cycles() {}

  private record Step<N>(N node, Iterator<? extends N> next) {}

  /** {@return the cycles}, each as its nodes in order with the first again at the end */
  static <N> List<List<N>> of(Iterable<N> nodes, Function<N, ? extends Collection<N>> edges) {
    List<List<N>> cycles = new ArrayList<>();
    Set<N> done = new HashSet<>();
    for (N start : nodes) {
      if (done.contains(start)) {
        continue;
      }
      Deque<Step<N>> path = new ArrayDeque<>();
      Map<N, Integer> depth = new HashMap<>();
      push(start, path, depth, edges);
      while (!path.isEmpty()) {
        Step<N> step = path.getLast();
        if (!step.next().hasNext()) {
          done.add(step.node());
          depth.remove(step.node());
          path.removeLast();
          continue;
        }
        N next = step.next().next();
        Integer seen = depth.get(next);
        if (seen != null) {
          List<N> cycle = new ArrayList<>();
          path.stream().skip(seen).forEach(it -> cycle.add(it.node()));
          cycle.add(next);
          cycles.add(cycle);
        } else if (!done.contains(next)) {
          push(next, path, depth, edges);
        }
      }
    }
    return cycles;
  }

  private static <N> void push(
      N node,
      Deque<Step<N>> path,
      Map<N, Integer> depth,
      Function<N, ? extends Collection<N>> edges) {
    depth.put(node, path.size());
    path.addLast(new Step<>(node, edges.apply(node).iterator()));
  }
}
