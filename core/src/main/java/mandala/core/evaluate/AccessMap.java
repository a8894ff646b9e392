package mandala.core.evaluate;

import java.util.Arrays;
import mandala.core.compiled.Snapshot;
import mandala.core.question.Verdict;
import org.jspecify.annotations.Nullable;

/**
 * The whole access of one session: by lane, runs of what is allowed, blocked and denied (sections 6
 * and 7). From its start up to the next one's start a run holds on the resources of the lane's
 * type. Runs point at distinct masks, so that an access map is some twenty kilobytes. Immutable.
 */
public final class AccessMap {

  public static final AccessMap EMPTY = new AccessMap();

  /** By lane: where its runs begin; one more at the end. */
  private final int[] from;

  private final int[] start;
  private final int[] mask;

  /** Three words for each distinct mask: allowed, blocked, denied. */
  private final long[] masks;

  private AccessMap() {
    from = new int[0];
    start = new int[0];
    mask = new int[0];
    masks = new long[3];
  }

  /**
   * Seals what a sweep found.
   *
   * @param cover where a delegation lets through, or null where nobody is acted for
   */
  public AccessMap(Snapshot it, Intervals runs, @Nullable Intervals cover) {
    FarGates far = new FarGates(it, runs);
    this(it.rights.rowLength, cover, far::resolve);
  }

  /**
   * Seals what is told of each lane.
   *
   * @param cover where a delegation lets through, or null where all goes through
   */
  public AccessMap(int lanes, @Nullable Intervals cover, Lanes told) {
    from = new int[lanes + 1];
    Builder builder = new Builder();
    for (int lane = 0; lane < lanes; lane++) {
      from[lane] = builder.size;
      builder.begin(cover, lane);
      told.tell(lane, builder);
      builder.finish();
    }
    from[lanes] = builder.size;
    start = Arrays.copyOf(builder.start, builder.size);
    mask = Arrays.copyOf(builder.mask, builder.size);
    masks = builder.distinct.sealed();
  }

  /** Tells what holds in a lane, from the first position on. */
  public interface Lanes {
    void tell(int lane, FarGates.Sink sink);
  }

  /** Joins the runs of a lane with a cover's, and drops those that say nothing new. */
  private static final class Builder implements FarGates.Sink {
    private int[] start = new int[256];
    private int[] mask = new int[256];
    private int size;
    private final Distinct distinct = new Distinct();

    private @Nullable Intervals cover;
    private int lane;
    private int first;
    private int next;
    private boolean any;
    private int since;
    private long usable;
    private long granted;
    private long denied;

    void begin(@Nullable Intervals itsCover, int itsLane) {
      cover = itsCover;
      lane = itsLane;
      first = size;
      next = 0;
      any = false;
    }

    @Override
    public void put(int at, long itsUsable, long itsGranted, long itsDenied) {
      if (any) {
        flush(at);
      }
      any = true;
      since = at;
      usable = itsUsable;
      granted = itsGranted;
      denied = itsDenied;
    }

    void finish() {
      if (any) {
        flush(Integer.MAX_VALUE);
      }
    }

    /** The run that waits holds up to a position; within it the cover may change. */
    private void flush(int to) {
      Intervals covers = cover;
      if (covers == null) {
        add(since, usable, granted & ~usable);
        return;
      }
      int at = since;
      while (at < to) {
        while (next < covers.size[lane] && covers.start[lane][next] <= at) {
          next++;
        }
        long open = next == 0 ? 0 : covers.granted[lane][next - 1];
        add(at, usable & open, granted & ~usable & open);
        at = next < covers.size[lane] ? Math.min(to, covers.start[lane][next]) : to;
      }
    }

    private void add(int at, long allowed, long blocked) {
      int number = distinct.number(allowed, blocked, denied);
      if (size > first ? mask[size - 1] == number : number == 0) {
        return;
      }
      if (size == start.length) {
        start = Arrays.copyOf(start, size * 2);
        mask = Arrays.copyOf(mask, size * 2);
      }
      start[size] = at;
      mask[size++] = number;
    }
  }

  /** Distinct masks, numbered; 0 is that nothing is. Open addressing. */
  private static final class Distinct {
    private long[] words = new long[3 * 64];
    private int size = 1;
    private int[] slots = new int[128];

    int number(long allowed, long blocked, long denied) {
      if (allowed == 0 && blocked == 0 && denied == 0) {
        return 0;
      }
      long mixed =
          (allowed * 0x9E3779B97F4A7C15L ^ blocked) * 0xC2B2AE3D27D4EB4FL
              ^ denied * 0x165667B19E3779F9L;
      int slot = (int) (mixed ^ mixed >>> 32) & slots.length - 1;
      while (slots[slot] != 0) {
        int at = slots[slot] * 3;
        if (words[at] == allowed && words[at + 1] == blocked && words[at + 2] == denied) {
          return slots[slot];
        }
        slot = slot + 1 & slots.length - 1;
      }
      if (size * 2 > slots.length) {
        widen();
        return number(allowed, blocked, denied);
      }
      if (size * 3 == words.length) {
        words = Arrays.copyOf(words, words.length * 2);
      }
      words[size * 3] = allowed;
      words[size * 3 + 1] = blocked;
      words[size * 3 + 2] = denied;
      slots[slot] = size;
      return size++;
    }

    private void widen() {
      long[] old = words;
      int many = size;
      slots = new int[slots.length * 2];
      size = 1;
      words = new long[old.length];
      for (int i = 1; i < many; i++) {
        number(old[i * 3], old[i * 3 + 1], old[i * 3 + 2]);
      }
    }

    long[] sealed() {
      return Arrays.copyOf(words, size * 3);
    }
  }

  /** {@return the run of a lane that holds at a position}, or -1 where nothing does */
  private int find(int lane, int at) {
    if (from.length == 0) {
      return -1;
    }
    int low = from[lane];
    int high = from[lane + 1];
    int base = low;
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (start[middle] <= at) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return low - 1 < base ? -1 : low - 1;
  }

  /** {@return the number of the masks at a position}; equal numbers, equal masks */
  public int maskAt(int lane, int at) {
    int run = find(lane, at);
    return run < 0 ? 0 : mask[run];
  }

  /** {@return where the run of a lane ends that holds at a position}; far off after the last */
  public int end(int lane, int at) {
    if (from.length == 0) {
      return Integer.MAX_VALUE;
    }
    int run = find(lane, at);
    int next = run < 0 ? from[lane] : run + 1;
    return next < from[lane + 1] ? start[next] : Integer.MAX_VALUE;
  }

  public long allowed(int number) {
    return masks[number * 3];
  }

  public long blocked(int number) {
    return masks[number * 3 + 1];
  }

  public long denied(int number) {
    return masks[number * 3 + 2];
  }

  /** {@return what is true of a bit of a lane at a position} */
  public Verdict verdict(int lane, long bit, int at) {
    int number = maskAt(lane, at);
    if ((denied(number) & bit) != 0) {
      return Verdict.DENIED;
    }
    if ((allowed(number) & bit) != 0) {
      return Verdict.ALLOWED;
    }
    return (blocked(number) & bit) != 0 ? Verdict.BLOCKED : Verdict.NONE;
  }

  /** Takes one run. */
  public interface Sink {
    void run(int start, int end, int mask);
  }

  /** Tells the runs of a lane within a stretch that hold anything, ascending. */
  public void runs(int lane, int begin, int end, Sink sink) {
    if (from.length == 0) {
      return;
    }
    for (int run = Math.max(find(lane, begin), from[lane]); run < from[lane + 1]; run++) {
      int to = run + 1 < from[lane + 1] ? Math.min(end, start[run + 1]) : end;
      int since = Math.max(begin, start[run]);
      if (start[run] >= end) {
        return;
      }
      if (mask[run] != 0 && since < to) {
        sink.run(since, to, mask[run]);
      }
    }
  }

  /** {@return whether any run holds something in a stretch} */
  public boolean touches(int begin, int end) {
    boolean[] any = new boolean[1];
    for (int lane = 0; lane < from.length - 1 && !any[0]; lane++) {
      runs(lane, begin, end, (_, _, _) -> any[0] = true);
    }
    return any[0];
  }

  /** {@return how many distinct masks there are}, the empty one included */
  public int distinct() {
    return masks.length / 3;
  }

  /** {@return how many runs there are} */
  int size() {
    return start.length;
  }

  /** {@return the size in bytes, roughly} */
  long bytes() {
    return 4L * (from.length + 2L * start.length) + 8L * masks.length;
  }
}
