package mandala.core.evaluate;

import java.util.Arrays;
import java.util.PriorityQueue;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.rights.GateTable;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.Spans;

/**
 * One pass over segments in the order of positions, on a stack.
 *
 * <p>Stretches of a tree nest. So the pass keeps a stack of frames, each a stretch with, by lane,
 * all that is allowed and denied on it by the segments around it; a new segment copies the frame
 * below and joins its row.
 *
 * <ol>
 *   <li>{@link #order} sorts the segments by start, the longer first.
 *   <li>{@link #take} puts each on the stack. A segment that reaches beyond the frame below is cut
 *       there, its rest waits ({@link #waiting}); one that begins under a seal below its floor
 *       waits for the seal's end.
 *   <li>{@link #bar} puts a frame on the stack for a sealed resource inside a frame: what was
 *       allowed from above stops there, but for what goes through seals.
 *   <li>{@link #enter} and {@link #leave} note for each lane that occurs in the frame what holds
 *       from here on ({@link Intervals}), and add up what is usable.
 * </ol>
 *
 * <p>Invariants: frames nest; a frame's masks are right for the lanes that occur in it; runs
 * ascend. Cost: segments times the lanes that occur in their stretch, most have one; sorting is by
 * counting. Source: sections 4 to 6; the stack is the usual one for nested intervals.
 */
final class Sweep {

  private final Snapshot it;
  private final ResourceSpace places;
  private final int lanes;
  private final int[] everyLane;
  final Intervals runs;

  private int[] order = new int[256];
  private int[] spare = new int[256];

  private int top;
  private int[] frameStart = new int[32];
  private int[] frameEnd = new int[32];
  private int[][] frameLanes = new int[32][];
  private boolean[] isSubtree = new boolean[32];

  /** Something may be allowed on the frame, so that a seal within it matters. */
  private boolean[] allowsAny = new boolean[32];

  private long[][] allow = new long[32][];
  private long[][] through = new long[32][];
  private long[][] deny = new long[32][];
  private boolean anyThrough;

  /** Rests of segments, and seals (the complement of their position), by where they begin. */
  private record Wait(int start, int end, int piece) implements Comparable<Wait> {
    @Override
    public int compareTo(Wait other) {
      if (start != other.start) {
        return Integer.compare(start, other.start);
      }
      return end != other.end
          ? Integer.compare(other.end, end)
          : Integer.compare(piece, other.piece);
    }
  }

  private final PriorityQueue<Wait> waiting = new PriorityQueue<>();

  /** The lanes to sweep, folded. */
  private long only = SegmentCollector.ALL_LANES;

  /** Whether all runs are noted, or only those that far gates need. */
  private boolean noting;

  /** Pairs of resource and permission that are usable, lanes with far gates left out. */
  private long usable;

  Sweep(Snapshot it) {
    this.it = it;
    this.places = it.places;
    lanes = it.rights.rowLength;
    runs = new Intervals(lanes);
    everyLane = new int[lanes * 2];
    for (int lane = 0; lane < lanes; lane++) {
      everyLane[lane * 2] = lane;
    }
  }

  /** Sweeps some segments; {@link #runs} holds what came of it until the next. */
  void run(Segments pieces) {
    run(pieces, SegmentCollector.ALL_LANES);
  }

  /** Sweeps some lanes only, folded; what the runs say of others means nothing. */
  void run(Segments pieces, long someLanes) {
    only = someLanes;
    run(pieces, true);
    only = SegmentCollector.ALL_LANES;
  }

  /**
   * Sweeps and only counts what is usable; {@link #runs} holds what far gates need.
   *
   * @return the number of pairs of permission and resource that are usable (section 6)
   */
  long count(Segments pieces) {
    run(pieces, false);
    long sum = usable;
    FarGates far = new FarGates(it, runs);
    for (int lane = 0; lane < lanes; lane++) {
      sum += it.rights.gatesOfLane[lane].far == 0 ? 0 : far.count(lane);
    }
    return sum;
  }

  private void run(Segments pieces, boolean all) {
    runs.clear();
    noting = all;
    usable = 0;
    top = -1;
    passed = -1;
    anyThrough = false;
    for (int i = 0; i < pieces.count && !anyThrough; i++) {
      anyThrough =
          pieces.floor[i] == Spans.THROUGH
              && !pieces.denies[i]
              && pieces.end[i] > pieces.start[i] + 1;
    }
    push(
        0, places.count, only == SegmentCollector.ALL_LANES ? everyLane : wanted(everyLane), false);
    order(pieces);
    int next = 0;
    while (next < pieces.count || !waiting.isEmpty() || top > 0) {
      int at = next < pieces.count ? pieces.start[order[next]] : Integer.MAX_VALUE;
      Wait wait = waiting.peek();
      at = wait == null ? at : Math.min(at, wait.start());
      at = Math.min(at, sealAhead(at));
      while (top > 0 && frameEnd[top] <= at) {
        leave();
        at = Math.min(at, sealAhead(at));
      }
      if (at == Integer.MAX_VALUE) {
        continue;
      }
      entered = top;
      if (at < places.count && places.seal[at] == at && !idle()) {
        bar(at, places.end[at]);
      }
      next = takeAll(pieces, next, at);
      for (int frame = entered + 1; frame <= top; frame++) {
        enter(frame);
      }
    }
  }

  /** The next sealed resource within the top frame, where something allowed can end at it. */
  private int sealAhead(int limit) {
    if (top <= 0 || idle()) {
      return limit;
    }
    int at = places.nextSeal[Math.min(passed + 1, places.count)];
    return at < frameEnd[top] ? Math.min(at, limit) : limit;
  }

  /** The last position at which something was taken or left. */
  private int passed;

  /** Frames up to this one are noted. */
  private int entered;

  private boolean idle() {
    return !allowsAny[top];
  }

  private int takeAll(Segments pieces, int from, int at) {
    int next = from;
    while (true) {
      Wait wait = waiting.peek();
      boolean waits = wait != null && wait.start() == at;
      boolean comes = next < pieces.count && pieces.start[order[next]] == at;
      if (!waits && !comes) {
        passed = at;
        return next;
      }
      int waitEnd = waits && wait != null ? wait.end() : -1;
      if (comes && !waits && pieces.end[order[next]] == at + 1 && places.isThere(at)) {
        passed = at;
        return points(pieces, next, at);
      }
      boolean first =
          comes
              && (pieces.end[order[next]] > waitEnd
                  || (wait != null && pieces.end[order[next]] == waitEnd && wait.piece() >= 0));
      if (first || !waits) {
        take(pieces, order[next], at, pieces.end[order[next]]);
        next++;
      } else if (wait != null) {
        waiting.remove();
        if (wait.piece() < 0) {
          bar(at, wait.end());
        } else {
          take(pieces, wait.piece(), at, wait.end());
        }
      }
    }
  }

  /** What begins and ends at one position needs no frame: its masks hold there and not beyond. */
  private int points(Segments pieces, int from, int at) {
    for (int frame = entered + 1; frame <= top; frame++) {
      enter(frame);
    }
    entered = top;
    int type = places.type[at];
    int next = from;
    for (int w = 0; w < it.rights.words[type]; w++) {
      int lane = it.rights.offset[type] + w;
      if ((only & Rights.fold(lane)) == 0) {
        continue;
      }
      long allowed = allow[top][lane];
      long denied = deny[top][lane];
      long below = allowed & ~denied;
      long deniedBelow = denied;
      for (next = from; next < pieces.count; next++) {
        int piece = order[next];
        if (pieces.start[piece] != at) {
          break;
        }
        if (pieces.type[piece] >= 0 && pieces.type[piece] != type) {
          continue;
        }
        long more = pieces.row[piece][pieces.offset[piece] + lane];
        if (pieces.denies[piece]) {
          denied |= more;
        } else if (pieces.floor[piece] >= places.seal[at]) {
          allowed |= pieces.view[piece] ? more & it.rights.viewRow[lane] : more;
        }
      }
      long granted = allowed & ~denied;
      GateTable gates = it.rights.gatesOfLane[lane];
      if (granted != below && gates.far == 0) {
        usable += Long.bitCount(gates.near(granted)) - Long.bitCount(gates.near(below));
      }
      if (noting || it.rights.farLane[lane]) {
        runs.put(lane, at, granted, denied);
        runs.put(lane, at + 1, below, deniedBelow);
      }
    }
    while (next < pieces.count && pieces.start[order[next]] == at) {
      next++;
    }
    return next;
  }

  private void take(Segments pieces, int piece, int start, int itsEnd) {
    int end = itsEnd;
    if (!pieces.denies[piece] && pieces.floor[piece] < places.seal[start]) {
      int resumes = places.end[places.seal[start]];
      if (resumes < end) {
        waiting.add(new Wait(resumes, end, piece));
      }
      return;
    }
    if (end > frameEnd[top]) {
      waiting.add(new Wait(frameEnd[top], end, piece));
      end = frameEnd[top];
    }
    if (top == 0 || frameStart[top] != start || frameEnd[top] != end) {
      pushNested(start, end);
    }
    boolean goesThrough =
        anyThrough && pieces.floor[piece] == Spans.THROUGH && !pieces.denies[piece];
    long[] into = pieces.denies[piece] ? deny[top] : allow[top];
    allowsAny[top] |= !pieces.denies[piece];
    int[] list = frameLanes[top];
    long[] row = pieces.row[piece];
    int offset = pieces.offset[piece];
    boolean view = pieces.view[piece];
    int type = pieces.type[piece];
    for (int i = 0; i < list.length; i += 2) {
      int lane = list[i];
      if (type < 0 || it.rights.laneType[lane] == type) {
        long more = view ? row[offset + lane] & it.rights.viewRow[lane] : row[offset + lane];
        into[lane] |= more;
        if (goesThrough) {
          through[top][lane] |= more;
        }
      }
    }
  }

  /** From a sealed resource on, only what goes through seals is allowed. */
  private void bar(int start, int itsEnd) {
    if (top == 0) {
      return;
    }
    int end = itsEnd;
    if (end > frameEnd[top]) {
      waiting.add(new Wait(frameEnd[top], end, -1));
      end = frameEnd[top];
    }
    if (frameStart[top] != start || frameEnd[top] != end) {
      pushNested(start, end);
    }
    int[] list = frameLanes[top];
    for (int i = 0; i < list.length; i += 2) {
      allow[top][list[i]] = anyThrough ? through[top][list[i]] : 0;
    }
    allowsAny[top] = anyThrough;
  }

  private void pushNested(int start, int end) {
    boolean subtree = start < places.count && places.end[start] == end && places.isThere(start);
    int[] list;
    boolean alone = end == start + 1 || (subtree && places.kinds[start] == null);
    if (alone && places.isThere(start)) {
      list = it.rights.lanesOfType[places.type[start]];
      subtree = true;
    } else {
      list = subtree ? places.kinds[start] : frameLanes[top];
    }
    push(start, end, only == SegmentCollector.ALL_LANES ? list : wanted(list), subtree);
  }

  private int[] wanted(int[] list) {
    int[] some = new int[list.length];
    int n = 0;
    for (int i = 0; i < list.length; i += 2) {
      if ((only & Rights.fold(list[i])) != 0) {
        some[n++] = list[i];
        some[n++] = list[i + 1];
      }
    }
    return Arrays.copyOf(some, n);
  }

  private void push(int start, int end, int[] list, boolean subtree) {
    top++;
    if (top == frameStart.length) {
      deepen();
    }
    frameStart[top] = start;
    frameEnd[top] = end;
    frameLanes[top] = list;
    isSubtree[top] = subtree;
    allowsAny[top] = top > 0 && allowsAny[top - 1];
    if (allow[top] == null) {
      allow[top] = new long[lanes];
      through[top] = new long[lanes];
      deny[top] = new long[lanes];
    }
    for (int i = 0; i < list.length; i += 2) {
      int lane = list[i];
      allow[top][lane] = top == 0 ? 0 : allow[top - 1][lane];
      deny[top][lane] = top == 0 ? 0 : deny[top - 1][lane];
      if (anyThrough || top == 0) {
        through[top][lane] = top == 0 ? 0 : through[top - 1][lane];
      }
    }
  }

  private void deepen() {
    int size = top * 2;
    frameStart = Arrays.copyOf(frameStart, size);
    frameEnd = Arrays.copyOf(frameEnd, size);
    frameLanes = Arrays.copyOf(frameLanes, size);
    isSubtree = Arrays.copyOf(isSubtree, size);
    allowsAny = Arrays.copyOf(allowsAny, size);
    allow = Arrays.copyOf(allow, size);
    through = Arrays.copyOf(through, size);
    deny = Arrays.copyOf(deny, size);
  }

  private void enter(int frame) {
    int[] list = frameLanes[frame];
    int start = frameStart[frame];
    for (int i = 0; i < list.length; i += 2) {
      int lane = list[i];
      long denied = deny[frame][lane];
      long granted = allow[frame][lane] & ~denied;
      long below = allow[frame - 1][lane] & ~deny[frame - 1][lane];
      if (granted != below && it.rights.gatesOfLane[lane].far == 0) {
        GateTable gates = it.rights.gatesOfLane[lane];
        long more = (long) Long.bitCount(gates.near(granted)) - Long.bitCount(gates.near(below));
        int many =
            isSubtree[frame]
                ? list[i + 1]
                : places.count(it.rights.laneType[lane], start, frameEnd[frame]);
        usable += more * many;
      }
      if (noting || it.rights.farLane[lane]) {
        runs.put(lane, start, granted, denied);
      }
    }
  }

  private void leave() {
    int[] list = frameLanes[top];
    int end = frameEnd[top];
    top--;
    for (int i = 0; i < list.length; i += 2) {
      int lane = list[i];
      if (noting || it.rights.farLane[lane]) {
        long denied = deny[top][lane];
        runs.put(lane, end, allow[top][lane] & ~denied, denied);
      }
    }
    passed = end - 1;
  }

  /** Two passes of counting, by the lower and the upper half of a position; ties longer first. */
  private void order(Segments pieces) {
    int n = pieces.count;
    if (order.length < n) {
      order = new int[n * 2];
      spare = new int[n * 2];
    }
    int bits = Math.max(1, (33 - Integer.numberOfLeadingZeros(places.count)) / 2);
    for (int i = 0; i < n; i++) {
      spare[i] = i;
    }
    count(pieces.start, n, 0, bits, spare, order);
    count(pieces.start, n, bits, bits, order, spare);
    int[] sorted = spare;
    spare = order;
    order = sorted;
    for (int i = 1; i < n; i++) {
      int piece = order[i];
      int j = i - 1;
      while (j >= 0
          && pieces.start[order[j]] == pieces.start[piece]
          && pieces.end[order[j]] < pieces.end[piece]) {
        order[j + 1] = order[j];
        j--;
      }
      order[j + 1] = piece;
    }
  }

  private static void count(int[] key, int n, int shift, int bits, int[] from, int[] to) {
    int mask = (1 << bits) - 1;
    int[] first = new int[mask + 2];
    for (int i = 0; i < n; i++) {
      first[(key[from[i]] >>> shift & mask) + 1]++;
    }
    for (int k = 0; k < mask; k++) {
      first[k + 1] += first[k];
    }
    for (int i = 0; i < n; i++) {
      to[first[key[from[i]] >>> shift & mask]++] = from[i];
    }
  }
}
