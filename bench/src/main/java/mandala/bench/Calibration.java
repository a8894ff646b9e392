package mandala.bench;

import java.util.Arrays;
import java.util.Random;

/**
 * A fixed piece of work that has nothing to do with Mandala: steps through 32 MB in random order,
 * which waits for memory as the engine does, and sorting. Figures divided by its time can be
 * compared between runs and, roughly, between machines.
 */
final class Calibration {

  private static final int SIZE = 1 << 23;
  private static final int STEPS = 1 << 20;
  private static final int TIMES = 9;

  private final int[] next = new int[SIZE];

  Calibration() {
    int[] order = new int[SIZE];
    Random random = new Random(5);
    for (int i = 0; i < SIZE; i++) {
      int j = random.nextInt(i + 1);
      order[i] = order[j];
      order[j] = i;
    }
    for (int i = 0; i < SIZE; i++) {
      next[order[i]] = order[(i + 1) % SIZE];
    }
  }

  /** {@return its time in milliseconds}, the median of some runs */
  double millis() {
    double[] took = new double[TIMES];
    int at = 0;
    for (int run = -2; run < TIMES; run++) {
      long start = System.nanoTime();
      int[] passed = new int[STEPS];
      for (int i = 0; i < STEPS; i++) {
        at = next[at];
        passed[i] = at;
      }
      Arrays.sort(passed);
      if (passed[0] > passed[STEPS - 1]) {
        throw new IllegalStateException("Impossible state: not sorted");
      }
      if (run >= 0) {
        took[run] = (System.nanoTime() - start) / 1e6;
      }
    }
    Arrays.sort(took);
    return took[TIMES / 2];
  }
}
