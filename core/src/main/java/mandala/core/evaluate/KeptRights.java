package mandala.core.evaluate;

import java.util.Arrays;
import java.util.BitSet;
import java.util.stream.LongStream;

/**
 * Rights of one principal that must stay, by lane and position of the snapshot that they were
 * worked out on and of those that came of it. Immutable.
 */
public final class KeptRights {

  /** The lane in the upper half, the position in the lower; ascending. */
  private final long[] where;

  private final long[] bits;

  private KeptRights(long[] where, long[] bits) {
    this.where = where;
    this.bits = bits;
  }

  /** Gathers rights, in the order of their lanes and positions. */
  public static final class Builder {
    private final LongStream.Builder where = LongStream.builder();
    private final LongStream.Builder bits = LongStream.builder();

    /** Adds the rights of a lane at one position. */
    public void add(int lane, int position, long mask) {
      where.add(key(lane, position));
      bits.add(mask);
    }

    /** {@return all of them} */
    public KeptRights build() {
      return new KeptRights(where.build().toArray(), bits.build().toArray());
    }
  }

  private static long key(int lane, int position) {
    return (long) lane << 32 | position;
  }

  /** {@return whether any of them lies within a stretch of positions and some bits of a lane} */
  public boolean any(int lane, int from, int to, long mask) {
    int i = Arrays.binarySearch(where, key(lane, from));
    for (i = i < 0 ? ~i : i; i < where.length && where[i] < key(lane, to); i++) {
      if ((bits[i] & mask) != 0) {
        return true;
      }
    }
    return false;
  }

  /** {@return whether any of them is allowed by one access map, and not by another} */
  public boolean isLost(AccessMap before, AccessMap after) {
    for (int i = 0; i < where.length; i++) {
      long missing = missing(i, after);
      if (missing != 0 && (missing(i, before) & missing) != missing) {
        return true;
      }
    }
    return false;
  }

  /** {@return whether an access map lacks any of them} */
  public boolean isMissing(AccessMap after) {
    for (int i = 0; i < where.length; i++) {
      if (missing(i, after) != 0) {
        return true;
      }
    }
    return false;
  }

  private long missing(int i, AccessMap map) {
    return bits[i] & ~map.allowed(map.maskAt((int) (where[i] >>> 32), (int) where[i]));
  }

  /** {@return where they are} */
  public BitSet positions() {
    BitSet positions = new BitSet();
    for (long it : where) {
      positions.set((int) it);
    }
    return positions;
  }
}
