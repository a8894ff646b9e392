package mandala.core.engine;

import java.util.Arrays;

/** Spans with the row that holds on them, side by side in arrays; append only. */
final class Pieces {

  int count;
  int[] start = new int[16];
  int[] end = new int[16];
  int[] floor = new int[16];

  /** The only type on which the row counts, or -1 for all. */
  int[] type = new int[16];

  /** What holds without and with a second factor; the same array where there is no difference. */
  long[][] free = new long[16][];

  long[][] all = new long[16][];

  void add(Spans spans, int onlyType, long[] freeRow, long[] allRow) {
    for (int i = 0; i < spans.size(); i++) {
      if (count == start.length) {
        grow();
      }
      start[count] = spans.start[i];
      end[count] = spans.end[i];
      floor[count] = spans.floor[i];
      type[count] = onlyType;
      free[count] = freeRow;
      all[count++] = allRow;
    }
  }

  private void grow() {
    int size = count * 2;
    start = Arrays.copyOf(start, size);
    end = Arrays.copyOf(end, size);
    floor = Arrays.copyOf(floor, size);
    type = Arrays.copyOf(type, size);
    free = Arrays.copyOf(free, size);
    all = Arrays.copyOf(all, size);
  }

  /** {@return whether a bit holds at a position} */
  boolean holds(Snapshot it, int at, int permission, boolean mfa) {
    int t = it.places.type[at];
    int b = it.rights.bit[t][permission];
    int word = it.rights.offset[t] + (b >> 6);
    int seal = it.places.seal[at];
    for (int i = 0; i < count; i++) {
      if (start[i] <= at
          && at < end[i]
          && seal <= floor[i]
          && (type[i] < 0 || type[i] == t)
          && ((mfa ? all[i] : free[i])[word] & 1L << b) != 0) {
        return true;
      }
    }
    return false;
  }
}
