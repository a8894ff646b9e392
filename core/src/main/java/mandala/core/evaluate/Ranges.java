package mandala.core.evaluate;

import java.util.BitSet;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.space.Spans;

/**
 * Places to look at, and the places above them where gates may lie: what begins and ends elsewhere
 * need not be swept.
 */
public final class Ranges {

  /** The places and those above them. */
  final Spans withAbove;

  private final Spans where;
  private final int from;
  private final int to;

  /** Positions above, ascending. */
  private final int[] above;

  public Ranges(Snapshot it, Spans where) {
    this.where = where;
    from = where.size() == 0 ? 0 : where.start[0];
    to = where.size() == 0 ? 0 : where.end[where.size() - 1];
    BitSet ancestors = new BitSet();
    for (int i = 0; i < where.size(); i++) {
      for (int up = it.places.parent[where.start[i]];
          up >= 0 && !ancestors.get(up);
          up = it.places.parent[up]) {
        ancestors.set(up);
      }
    }
    above = ancestors.stream().toArray();
    for (int i = 0; i < where.size(); i++) {
      ancestors.set(where.start[i], where.end[i]);
    }
    withAbove = runs(ancestors);
  }

  /** {@return positions as spans that name nothing} */
  public static Spans runs(BitSet positions) {
    Spans.Builder runs = new Spans.Builder();
    for (int from = positions.nextSetBit(0); from >= 0; ) {
      int to = positions.nextClearBit(from);
      runs.add(from, to, Spans.NO_FLOOR);
      from = positions.nextSetBit(to);
    }
    return runs.build();
  }

  /** {@return whether a stretch meets the places or one above them} */
  boolean meets(int start, int end) {
    if (start < to && from < end && (where.size() == 1 || where.meet(start, end))) {
      return true;
    }
    for (int up : above) {
      if (up >= start) {
        return up < end;
      }
    }
    return false;
  }
}
