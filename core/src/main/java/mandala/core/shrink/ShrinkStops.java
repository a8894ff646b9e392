package mandala.core.shrink;

import java.util.ArrayList;
import java.util.List;
import java.util.SortedSet;
import java.util.TreeSet;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.question.Impact;

/**
 * Finds the steps of a smaller model after which the model is sound already (section 12). What ends
 * comes first, then what is narrowed, the simplest first.
 */
public final class ShrinkStops {

  private ShrinkStops() {}

  /** Takes a model at which one may stop. */
  @FunctionalInterface
  public interface Visitor {
    /**
     * Called for each stop, the fewest steps first.
     *
     * @param steps how many of the steps are taken
     * @param changes that lead there from the model one began with
     */
    void stop(int steps, List<Change> changes, Engine after);
  }

  /**
   * Visits stops; those at which the model would not be sound are left out, the last is not.
   *
   * @param steps those of the smaller model
   * @param most stops, at least 2
   * @param watch told how far it is, and asked whether to go on
   */
  public static void each(
      Engine engine,
      Engine then,
      ShrinkOrder order,
      List<ShrinkStep> steps,
      int most,
      Visitor visitor,
      Impact.Watch watch) {
    Soundness soundness =
        new Soundness(engine, engine.excess(then, order.use(), order.window()), order, true);
    List<Integer> stops = List.copyOf(stops(steps, most));
    List<Change> changes = new ArrayList<>();
    int taken = 0;
    for (int i = 0; i < stops.size() && watch.goOn(i, stops.size()); i++) {
      for (; taken < stops.get(i); taken++) {
        changes.addAll(steps.get(taken).changes());
      }
      Draft draft = Draft.of(changes);
      Engine after = engine.after(draft.inOrder());
      if (taken == steps.size() || soundness.isSound(after)) {
        visitor.stop(taken, draft.inOrder(), after);
      }
    }
  }

  private static SortedSet<Integer> stops(List<ShrinkStep> steps, int most) {
    SortedSet<Integer> stops = new TreeSet<>();
    int ends = 0;
    while (ends < steps.size() && !(steps.get(ends).why() instanceof ShrinkStep.Why.Narrowed)) {
      ends++;
    }
    if (ends > 0) {
      stops.add(ends);
    }
    int evenly = most - 1;
    for (int i = 1; i <= evenly; i++) {
      stops.add((int) Math.ceilDiv((long) steps.size() * i, evenly));
    }
    stops.remove(0);
    return stops;
  }
}
