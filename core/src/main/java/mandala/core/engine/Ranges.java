package mandala.core.engine;

import java.util.BitSet;

/**
 * Places to look at, and the places above them where gates may lie: what begins and ends elsewhere
 * need not be swept.
 */
final class Ranges {

  final Spans where;
  private final int from;
  private final int to;
  private final BitSet above = new BitSet();

  Ranges(Snapshot it, Spans where) {
    this.where = where;
    from = where.size() == 0 ? 0 : where.start[0];
    to = where.size() == 0 ? 0 : where.end[where.size() - 1];
    for (int i = 0; i < where.size(); i++) {
      for (int up = it.places.parent[where.start[i]];
          up >= 0 && !above.get(up);
          up = it.places.parent[up]) {
        above.set(up);
      }
    }
  }

  /** {@return whether a stretch meets the places or one above them} */
  boolean meets(int start, int end) {
    if (start < to && from < end && (where.size() == 1 || where.meets(start, end))) {
      return true;
    }
    int up = above.nextSetBit(start);
    return up >= 0 && up < end;
  }
}
