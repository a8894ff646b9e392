package mandala.core.engine;

import java.util.Arrays;

/**
 * What holds where for one principal, side by side in arrays: on a stretch, on a type or on all, a
 * row is allowed or denied. Filled by {@link Gathering}, swept by {@link Sweep}; used again and
 * again by one thread.
 */
final class Pieces {

  int count;
  int[] start = new int[256];
  int[] end = new int[256];

  /** As in {@link Spans}; denies have {@link Spans#THROUGH}. */
  int[] floor = new int[256];

  /** The only type on which the row counts, or -1 for all. */
  int[] type = new int[256];

  boolean[] denies = new boolean[256];
  long[][] row = new long[256][];

  void clear() {
    count = 0;
  }

  void add(int from, int to, int itsFloor, int onlyType, boolean denying, long[] itsRow) {
    if (count == start.length) {
      grow();
    }
    start[count] = from;
    end[count] = to;
    floor[count] = itsFloor;
    type[count] = onlyType;
    denies[count] = denying;
    row[count++] = itsRow;
  }

  void add(Spans spans, int onlyType, boolean through, boolean denying, long[] itsRow) {
    for (int i = 0; i < spans.size(); i++) {
      int itsFloor = through ? Spans.THROUGH : spans.floor[i];
      add(spans.start[i], spans.end[i], itsFloor, onlyType, denying, itsRow);
    }
  }

  private void grow() {
    int size = count * 2;
    start = Arrays.copyOf(start, size);
    end = Arrays.copyOf(end, size);
    floor = Arrays.copyOf(floor, size);
    type = Arrays.copyOf(type, size);
    denies = Arrays.copyOf(denies, size);
    row = Arrays.copyOf(row, size);
  }
}
