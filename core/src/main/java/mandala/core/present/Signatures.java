package mandala.core.present;

import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.Spans;
import mandala.core.table.IntList;

/**
 * The distinct answers of an access: positions of one type with the same masks share a signature,
 * so that what is told of many places is computed once for each signature. Positions get theirs run
 * by run, not one by one.
 */
final class Signatures {

  /** By position: its signature, or -1 where the position was not looked at or is a gap. */
  final int[] of;

  /** By signature: a position that has it. */
  final IntList first = new IntList();

  /** By signature: the resource type. */
  final IntList type = new IntList();

  Signatures(Access access, Spans where) {
    ResourceSpace places = access.it.places;
    of = new int[places.count];
    Arrays.fill(of, -1);
    for (int t = 0; t < access.it.rights.types.size(); t++) {
      if (access.it.rights.words[t] == 1) {
        ofOneLane(access, t, where);
      } else {
        ofSeveral(access, t, where);
      }
    }
  }

  private void ofOneLane(Access access, int t, Spans where) {
    int[] positions = access.it.places.ofType[t];
    int lane = access.it.rights.offset[t];
    int[] known = new int[access.accessMap.distinct()];
    Arrays.fill(known, -1);
    for (int i = 0; i < where.size(); i++) {
      int[] next = {IntList.lowerBound(positions, where.start[i])};
      access.accessMap.runs(
          lane,
          where.start[i],
          where.end[i],
          (start, end, mask) -> {
            next[0] = fill(positions, next[0], start, known, 0, t);
            next[0] = fill(positions, next[0], end, known, mask, t);
          });
      fill(positions, next[0], where.end[i], known, 0, t);
    }
  }

  private int fill(int[] positions, int from, int end, int[] known, int mask, int t) {
    int i = from;
    while (i < positions.length && positions[i] < end) {
      if (known[mask] < 0) {
        known[mask] = add(positions[i], t);
      }
      of[positions[i++]] = known[mask];
    }
    return i;
  }

  private int add(int at, int t) {
    first.add(at);
    type.add(t);
    return first.size() - 1;
  }

  private void ofSeveral(Access access, int t, Spans where) {
    Map<java.util.List<Integer>, Integer> known = new HashMap<>();
    for (int at : access.it.places.ofType[t]) {
      if (where.contains(at)) {
        Integer[] masks = new Integer[access.it.rights.words[t]];
        for (int w = 0; w < masks.length; w++) {
          masks[w] = access.accessMap.maskAt(access.it.rights.offset[t] + w, at);
        }
        of[at] = known.computeIfAbsent(java.util.List.of(masks), _ -> add(at, t));
      }
    }
  }

  int count() {
    return first.size();
  }

  /** {@return by signature: how many positions of these have it} */
  int[] tally(Spans where) {
    int[] counts = new int[count()];
    for (int i = 0; i < where.size(); i++) {
      for (int at = where.start[i]; at < where.end[i]; at++) {
        if (of[at] >= 0) {
          counts[of[at]]++;
        }
      }
    }
    return counts;
  }
}
