package mandala.core.compare;

import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.NavigableMap;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.IntPredicate;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.Rights;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.Intervals;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.RightsCounter;
import mandala.core.model.key.Key;

/**
 * Counts the rights that a principal keeps, but by another route: of which the assignments and
 * bridges that give them are not the same ones before and after. By which groups and roles an
 * assignment reaches its right is its own affair and does not count.
 *
 * <ol>
 *   <li>{@link #sources} lists what may give otherwise: of subjects that came or went everything,
 *       of the others what {@link ChangeScope#isOther} tells.
 *   <li>What is there on one side only changes the route of all that it gives; what is there on
 *       both is swept alone, before and after, and changes what it gives on one side only.
 *   <li>{@link Marks} puts these together, so that a right counts once, and only where it is
 *       allowed before and after.
 * </ol>
 *
 * <p>Cost: two sweeps of a few grant entries, and two more for each source that is there on both
 * sides. For one thread.
 */
final class RouteChanges {

  private final Snapshot before;
  private final Snapshot after;
  private final ChangeScope narrowing;
  private final RightsCounter first;
  private final RightsCounter second;

  /** Positions at which something else stands than before. */
  private final BitSet moved = new BitSet();

  RouteChanges(Snapshot before, Snapshot after, ChangeScope narrowing) {
    this.before = before;
    this.after = after;
    this.narrowing = narrowing;
    first = new RightsCounter(before);
    second = new RightsCounter(after);
    for (int at = 0; at < after.places.count; at++) {
      moved.set(
          at,
          at >= before.places.count
              || before.places.node[at] != after.places.node[at]
              || before.places.type[at] != after.places.type[at]);
    }
  }

  /** {@return whether routes can be compared}: types and permissions are the same ones */
  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  static boolean isTold(Snapshot before, Snapshot after) {
    return before.grantIds == after.grantIds && before.rights == after.rights;
  }

  /** One side: who, with or without a second factor, and the whole access there. */
  record Side(PrincipalAtInstant who, boolean mfa, AccessMap accessMap) {}

  /**
   * {@return how many rights are kept by another route}
   *
   * @param reach where and in which lanes the access maps are right
   */
  long count(Side was, Side is, ChangeScope.Reach reach) {
    Map<Key, Integer> sourcesBefore = sources(was.who(), is.who());
    Map<Key, Integer> sourcesAfter = sources(is.who(), was.who());
    Set<Integer> went = new HashSet<>();
    Set<Integer> came = new HashSet<>();
    Marks marks = new Marks(was.accessMap(), is.accessMap(), reach);
    sourcesBefore.forEach((key, ref) -> {
      Integer now = sourcesAfter.get(key);
      if (now == null) {
        went.add(ref);
      } else {
        int other = now;
        marks.differing(
            given(first, was, reach, before, it -> it == ref),
            given(second, is, reach, after, it -> it == other));
      }
    });
    sourcesAfter.forEach((key, ref) -> {
      if (!sourcesBefore.containsKey(key)) {
        came.add(ref);
      }
    });
    Intervals nothing = new Intervals(before.rights.rowLength);
    if (!went.isEmpty()) {
      marks.differing(given(first, was, reach, before, went::contains), nothing);
    }
    if (!came.isEmpty()) {
      marks.differing(nothing, given(second, is, reach, after, came::contains));
    }
    return marks.count();
  }

  private static Intervals given(
      RightsCounter counting, Side side, ChangeScope.Reach reach, Snapshot it, IntPredicate refs) {
    return counting.given(side.who(), side.mfa(), reach.ranges(it), reach.lanes, refs);
  }

  /** What may give otherwise on the other side, by key. */
  private Map<Key, Integer> sources(PrincipalAtInstant who, PrincipalAtInstant other) {
    Set<Integer> others = new HashSet<>();
    for (int subject : other.subjects) {
      others.add(subject);
    }
    boolean alike = narrowing.isComparable(who, other);
    Map<Key, Integer> sources = new HashMap<>();
    for (int subject : who.subjects) {
      long[] lines = who.it.lines(false, subject);
      int n = lines == null ? 0 : lines.length / 3;
      boolean all = !alike || !others.contains(subject);
      for (int i = 0; i < n && lines != null; i++) {
        int ref = (int) lines[2 * n + i];
        if (all
            || narrowing.isOther(
                ref, GrantEntry.given(lines[n + i]), GrantEntry.ground(lines[n + i]))) {
          sources.put(key(who.it, ref), ref);
        }
      }
    }
    return sources;
  }

  private static Key key(Snapshot it, int ref) {
    return ref >= 0
        ? it.catalogue.assignments().the(ref).key()
        : it.catalogue.bridges().the(~ref).key();
  }

  /** The rights whose routes differ, by lane: from a position on these bits. */
  private final class Marks {
    private final AccessMap was;
    private final AccessMap is;
    private final ChangeScope.Reach reach;
    private final Map<Integer, NavigableMap<Integer, Long>> lanes = new HashMap<>();

    /** What moved, by lane and position. */
    private final Map<Long, Long> singles = new HashMap<>();

    Marks(AccessMap was, AccessMap is, ChangeScope.Reach reach) {
      this.was = was;
      this.is = is;
      this.reach = reach;
    }

    /** Marks what is kept and given by one of two and not by the other. */
    void differing(Intervals one, Intervals two) {
      for (int lane = 0; lane < before.rights.rowLength; lane++) {
        for (int i = 0; i < reach.where.size() && (reach.lanes & Rights.fold(lane)) != 0; i++) {
          stretch(one, two, lane, reach.where.start[i], reach.where.end[i]);
        }
      }
      for (int at = moved.nextSetBit(0); at >= 0; at = moved.nextSetBit(at + 1)) {
        int old = after.places.isThere(at) ? whereItWas(at) : -1;
        if (old >= 0) {
          single(one, old, two, at);
        }
      }
    }

    /** Something that moved, or that is of another type now: permission by permission. */
    private void single(Intervals one, int old, Intervals two, int at) {
      int typeWas = before.places.type[old];
      int type = after.places.type[at];
      for (int p = 0; p < after.rights.permissions.size(); p++) {
        int bitWas = before.rights.bit[typeWas][p];
        int bit = after.rights.bit[type][p];
        if (bitWas >= 0 && bit >= 0) {
          int laneWas = before.rights.offset[typeWas] + (bitWas >> 6);
          int lane = after.rights.offset[type] + (bit >> 6);
          boolean kept =
              has(was.allowed(was.maskAt(laneWas, old)), bitWas)
                  && has(is.allowed(is.maskAt(lane, at)), bit);
          if (kept
              && has(one.grantedAt(laneWas, old), bitWas) != has(two.grantedAt(lane, at), bit)) {
            singles.merge((long) lane << 32 | at, 1L << bit, (known, more) -> known | more);
          }
        }
      }
    }

    private static boolean has(long mask, int bit) {
      return (mask & 1L << bit) != 0;
    }

    private int whereItWas(int at) {
      return before.places.find(after.places.key(at));
    }

    private void stretch(Intervals one, Intervals two, int lane, int from, int to) {
      int limit = Math.min(to, after.places.count);
      int at = from;
      while (at < limit) {
        int end = Math.min(limit, Math.min(was.end(lane, at), is.end(lane, at)));
        end = Math.min(end, Math.min(one.end(lane, at), two.end(lane, at)));
        long kept = was.allowed(was.maskAt(lane, at)) & is.allowed(is.maskAt(lane, at));
        mark(lane, at, end, kept & (one.grantedAt(lane, at) ^ two.grantedAt(lane, at)));
        at = end;
      }
    }

    private void mark(int lane, int from, int to, long bits) {
      if (bits == 0) {
        return;
      }
      NavigableMap<Integer, Long> marks = lanes.computeIfAbsent(lane, _ -> new TreeMap<>());
      split(marks, from);
      split(marks, to);
      marks.subMap(from, to).replaceAll((_, known) -> known | bits);
    }

    private static void split(NavigableMap<Integer, Long> marks, int at) {
      Map.Entry<Integer, Long> around = marks.floorEntry(at);
      if (around == null || around.getKey() != at) {
        marks.put(at, around == null ? 0 : around.getValue());
      }
    }

    /** Marks of stretches leave out what moved: that is marked one by one. */
    long count() {
      long[] sum = new long[1];
      lanes.forEach((lane, marks) -> {
        int type = after.rights.laneType[lane];
        marks.forEach((from, bits) -> {
          Integer to = marks.higherKey(from);
          if (to != null && bits != 0) {
            sum[0] += (long) Long.bitCount(bits) * stayed(type, from, to);
          }
        });
      });
      singles.values().forEach(bits -> sum[0] += Long.bitCount(bits));
      return sum[0];
    }

    private int stayed(int type, int from, int to) {
      int many = after.places.count(type, from, to);
      for (int at = moved.nextSetBit(from); at >= 0 && at < to; at = moved.nextSetBit(at + 1)) {
        many -= after.places.type[at] == type ? 1 : 0;
      }
      return many;
    }
  }
}
