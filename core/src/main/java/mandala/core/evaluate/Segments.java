package mandala.core.evaluate;

import java.util.Arrays;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.Spans;

/**
 * What holds where for one principal, side by side in arrays: on a stretch, on a type or on all, a
 * row is allowed or denied. Filled by {@link SegmentCollector}, swept by {@link Sweep}; used again
 * and again by one thread.
 */
public final class Segments {

  private static final int FEW = 64;

  int count;
  int[] start = new int[256];
  int[] end = new int[256];

  /** As in {@link Spans}; denies have {@link Spans#THROUGH}. */
  int[] floor = new int[256];

  /** The only type on which the row counts, or -1 for all. */
  int[] type = new int[256];

  boolean[] denies = new boolean[256];

  /** The array in which the row lies, and from where on; only its allows of class view count. */
  long[][] row = new long[256][];

  int[] offset = new int[256];
  boolean[] view = new boolean[256];

  void clear() {
    count = 0;
  }

  /** What is allowed or denied on a stretch. */
  static final class Gift {
    final long[] row;
    final int offset;
    final boolean view;
    final boolean denying;

    Gift(long[] row, int offset, boolean view, boolean denying) {
      this.row = row;
      this.offset = offset;
      this.view = view;
      this.denying = denying;
    }
  }

  void add(
      int from, int to, int itsFloor, int onlyType, boolean denying, long[] array, int itsOffset) {
    put(from, to, itsFloor, onlyType, denying, array, itsOffset, false);
  }

  private void put(
      int from,
      int to,
      int itsFloor,
      int onlyType,
      boolean denying,
      long[] array,
      int itsOffset,
      boolean viewOnly) {
    if (count == start.length) {
      grow();
    }
    start[count] = from;
    end[count] = to;
    floor[count] = itsFloor;
    type[count] = onlyType;
    denies[count] = denying;
    row[count] = array;
    offset[count] = itsOffset;
    view[count++] = viewOnly;
  }

  /**
   * Adds spans. One that is no subtree but a few of them side by side is added as these, for of a
   * subtree the sweep knows what occurs in it.
   */
  void add(ResourceSpace places, Spans spans, int onlyType, boolean through, Gift gift) {
    for (int i = 0; i < spans.size(); i++) {
      int from = spans.start[i];
      int to = spans.end[i];
      int itsFloor = through ? Spans.THROUGH : spans.floor[i];
      boolean whole = to - from == 1 || places.end[from] == to || parts(places, from, to) > FEW;
      for (int at = from; at < to; ) {
        int next = whole ? to : after(places, at, to);
        if (whole || places.isThere(at)) {
          put(at, next, itsFloor, onlyType, gift.denying, gift.row, gift.offset, gift.view);
        }
        at = next;
      }
    }
  }

  /** Where the largest subtree ends that begins here and does not reach beyond a limit. */
  private static int after(ResourceSpace places, int at, int limit) {
    return places.end[at] <= limit ? places.end[at] : at + 1;
  }

  private static int parts(ResourceSpace places, int from, int to) {
    int parts = 0;
    for (int at = from; at < to && parts <= FEW; at = after(places, at, to)) {
      parts += places.isThere(at) ? 1 : 0;
    }
    return parts;
  }

  private void grow() {
    int size = count * 2;
    start = Arrays.copyOf(start, size);
    end = Arrays.copyOf(end, size);
    floor = Arrays.copyOf(floor, size);
    type = Arrays.copyOf(type, size);
    denies = Arrays.copyOf(denies, size);
    row = Arrays.copyOf(row, size);
    offset = Arrays.copyOf(offset, size);
    view = Arrays.copyOf(view, size);
  }
}
