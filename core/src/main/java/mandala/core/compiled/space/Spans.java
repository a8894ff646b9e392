package mandala.core.compiled.space;

import java.util.Arrays;
import mandala.core.table.IntList;

/**
 * Places as sorted, disjoint spans of pre-order positions. Each span has a floor: an allow reaches
 * a position of it only where the nearest seal at or above that position lies at the floor or above
 * it in the tree (section 4, seals): {@code seal[position] <= floor}. The floor is the deepest
 * named place, {@link #NO_FLOOR} where none is named, {@link #THROUGH} where seals do not matter.
 */
public final class Spans {

  /** Nothing is named: only what no seal covers is reached. */
  public static final int NO_FLOOR = -1;

  /** Seals do not matter. */
  public static final int THROUGH = Integer.MAX_VALUE;

  public static final Spans EMPTY = new Spans(new int[0], new int[0], new int[0]);

  public final int[] start;
  public final int[] end;
  public final int[] floor;

  private Spans(int[] start, int[] end, int[] floor) {
    this.start = start;
    this.end = end;
    this.floor = floor;
  }

  public static Spans of(int start, int end, int floor) {
    return start >= end ? EMPTY : new Spans(new int[] {start}, new int[] {end}, new int[] {floor});
  }

  public int size() {
    return start.length;
  }

  public boolean contains(int position) {
    return find(position) >= 0;
  }

  /** {@return which span covers a position}, or -1 where none does */
  public int find(int position) {
    int low = 0;
    int high = start.length;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (start[middle] <= position) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low > 0 && position < end[low - 1] ? low - 1 : -1;
  }

  /** {@return whether some of it lies in a stretch} */
  public boolean meet(int from, int to) {
    int next = IntList.lowerBound(start, from);
    return (next < start.length && start[next] < to) || (next > 0 && from < end[next - 1]);
  }

  /** {@return the number of positions covered} */
  int length() {
    int length = 0;
    for (int i = 0; i < start.length; i++) {
      length += end[i] - start[i];
    }
    return length;
  }

  /** {@return what both cover}; of two floors the deeper one, for any term may name the place */
  public Spans and(Spans other) {
    if (size() == 0 || other.size() == 0) {
      return EMPTY;
    }
    if (size() == 1) {
      return other.cut(start[0], end[0], floor[0]);
    }
    if (other.size() == 1) {
      return cut(other.start[0], other.end[0], other.floor[0]);
    }
    Builder both = new Builder();
    int i = 0;
    int j = 0;
    while (i < size() && j < other.size()) {
      int from = Math.max(start[i], other.start[j]);
      int to = Math.min(end[i], other.end[j]);
      if (from < to) {
        both.add(from, to, Math.max(floor[i], other.floor[j]));
      }
      if (end[i] < other.end[j]) {
        i++;
      } else {
        j++;
      }
    }
    return both.build();
  }

  /** {@return what of these lies in one span} */
  private Spans cut(int from, int to, int itsFloor) {
    int first = IntList.lowerBound(start, from);
    if (first > 0 && end[first - 1] > from) {
      first--;
    }
    if (from <= start[0] && end[end.length - 1] <= to && itsFloor == NO_FLOOR) {
      return this;
    }
    Builder both = new Builder();
    for (int i = first; i < start.length && start[i] < to; i++) {
      both.add(Math.max(start[i], from), Math.min(end[i], to), Math.max(floor[i], itsFloor));
    }
    return both.build();
  }

  /** {@return the same places, seals not mattering} */
  Spans through() {
    int[] through = new int[size()];
    Arrays.fill(through, THROUGH);
    return new Spans(start, end, through);
  }

  /** Takes spans in ascending order and joins those that touch and share a floor. */
  public static final class Builder {
    private final IntList start = new IntList();
    private final IntList floor = new IntList();
    private int[] end = new int[8];

    public Builder add(int from, int to, int spanFloor) {
      int last = start.size() - 1;
      if (last >= 0 && end[last] >= from && floor.get(last) == spanFloor) {
        end[last] = Math.max(end[last], to);
        return this;
      }
      if (last + 1 == end.length) {
        end = Arrays.copyOf(end, end.length * 2);
      }
      end[last + 1] = to;
      start.add(from);
      floor.add(spanFloor);
      return this;
    }

    public Spans build() {
      return start.size() == 0
          ? EMPTY
          : new Spans(start.toArray(), Arrays.copyOf(end, start.size()), floor.toArray());
    }
  }
}
