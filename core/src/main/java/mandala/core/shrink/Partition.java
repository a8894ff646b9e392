package mandala.core.shrink;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collections;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.PriorityQueue;
import java.util.Queue;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * Ways to give by few assignments what is needed of one: from the finest, where nobody gets
 * anything else, down to a single one, each step joining the two pieces that cost least in
 * exposure.
 */
final class Partition {

  /** Stands for everybody who has the old subject. */
  static final int ALL = -1;

  /** More pieces than these are not begun with. */
  private static final int MOST_PIECES = 48;

  /**
   * One assignment of those that come for the old one.
   *
   * @param person {@link #ALL}, or one who has the old subject
   * @param permissions what a bit stands for, {@link Table#permissions} tells
   * @param places likewise
   */
  record Piece(int person, BitSet permissions, BitSet places) {

    boolean isWithin(Piece other) {
      return (other.person == ALL || other.person == person)
          && isWithin(permissions, other.permissions)
          && isWithin(places, other.places);
    }

    private static boolean isWithin(BitSet some, BitSet all) {
      BitSet rest = (BitSet) some.clone();
      rest.andNot(all);
      return rest.isEmpty();
    }
  }

  /** Pieces, and the exposure that they give without need. */
  record Way(List<Piece> pieces, long cost) {
    Way {
      pieces = List.copyOf(pieces);
    }
  }

  /** What is known of the places and permissions that are needed of an assignment. */
  interface Table {
    int[] permissions();

    int[] places();

    /**
     * {@return what giving one more cell costs}, to one or all, in exposure; 0 where it is needed
     */
    long cost(int person, int permission, int place);

    /** {@return whether all who have the subject need a cell} */
    boolean isNeededByAll(int permission, int place);
  }

  private final Table table;

  Partition(Table table) {
    this.table = table;
  }

  /**
   * {@return by number of pieces, the cheapest way found}
   *
   * @param single which cells may be given to single persons
   */
  NavigableMap<Integer, Way> ways(Cells needed, Single single) {
    List<Piece> pieces = first(needed, single);
    NavigableMap<Integer, Way> ways = new TreeMap<>();
    while (true) {
      Way way = new Way(pieces, pieces.stream().mapToLong(this::cost).sum());
      ways.put(pieces.size(), way);
      if (pieces.size() <= 1) {
        return ways;
      }
      pieces = joined(pieces);
    }
  }

  /** Tells whether an assignment to a person alone may give it a place. */
  interface Single {
    boolean may(int person, int place);
  }

  private List<Piece> first(Cells needed, Single single) {
    Set<Long> all = new LinkedHashSet<>();
    List<Piece> pieces = new ArrayList<>();
    for (int person : needed.people()) {
      Set<Long> own = new HashSet<>();
      for (long cell : needed.of(person)) {
        boolean common =
            !single.may(person, Cells.position(cell))
                || table.isNeededByAll(Cells.permission(cell), Cells.position(cell));
        (common ? all : own).add(cell);
      }
      add(own, person, pieces);
    }
    add(all, ALL, pieces);
    while (pieces.size() > MOST_PIECES) {
      pieces = joinedRoughly(pieces);
    }
    return pieces;
  }

  private void add(Set<Long> cells, int person, List<Piece> pieces) {
    for (Cells.Block it : Cells.blocks(cells, table.permissions(), table.places())) {
      pieces.add(new Piece(person, it.permissions(), it.places()));
    }
  }

  /** Joins neighbours two and two: those with most permissions in common stand together. */
  private static List<Piece> joinedRoughly(List<Piece> pieces) {
    List<Piece> sorted = new ArrayList<>(pieces);
    sorted.sort((a, b) -> {
      int byPerson = Integer.compare(a.person(), b.person());
      return byPerson != 0
          ? byPerson
          : a.permissions().toString().compareTo(b.permissions().toString());
    });
    List<Piece> joined = new ArrayList<>();
    for (int i = 0; i < sorted.size(); i += 2) {
      joined.add(i + 1 < sorted.size() ? join(sorted.get(i), sorted.get(i + 1)) : sorted.get(i));
    }
    return joined;
  }

  private List<Piece> joined(List<Piece> pieces) {
    long least = Long.MAX_VALUE;
    @Nullable List<Piece> best = null;
    long[] costs = pieces.stream().mapToLong(this::cost).toArray();
    for (int i = 0; i < pieces.size(); i++) {
      for (int j = i + 1; j < pieces.size(); j++) {
        Piece both = join(pieces.get(i), pieces.get(j));
        long more = cost(both) - costs[i] - costs[j];
        if (more < least) {
          least = more;
          best = without(pieces, i, j, both);
        }
      }
    }
    return best == null ? Collections.emptyList() : best;
  }

  /** Others that the joined piece gives anyway go with the two. */
  private static List<Piece> without(List<Piece> pieces, int i, int j, Piece both) {
    List<Piece> rest = new ArrayList<>();
    for (int k = 0; k < pieces.size(); k++) {
      if (k != i && k != j && !pieces.get(k).isWithin(both)) {
        rest.add(pieces.get(k));
      }
    }
    rest.add(both);
    return rest;
  }

  private static Piece join(Piece one, Piece other) {
    BitSet permissions = (BitSet) one.permissions().clone();
    permissions.or(other.permissions());
    BitSet places = (BitSet) one.places().clone();
    places.or(other.places());
    return new Piece(one.person() == other.person() ? one.person() : ALL, permissions, places);
  }

  private long cost(Piece piece) {
    long cost = 0;
    for (int s = piece.places().nextSetBit(0); s >= 0; s = piece.places().nextSetBit(s + 1)) {
      for (int p = piece.permissions().nextSetBit(0);
          p >= 0;
          p = piece.permissions().nextSetBit(p + 1)) {
        cost += table.cost(piece.person(), table.permissions()[p], table.places()[s]);
      }
    }
    return cost;
  }

  /**
   * {@return how many pieces each may come to, so that all together cost least}: from one each, the
   * next goes where it saves most
   *
   * @param budget how many pieces there may be in all
   */
  static int[] shares(List<NavigableMap<Integer, Way>> ways, long budget) {
    int[] counts = ways.stream().mapToInt(NavigableMap::firstKey).toArray();
    long left = budget - Arrays.stream(counts).sum();
    PriorityQueue<Growth> next = new PriorityQueue<>(Comparator.comparingDouble(it -> -it.saves()));
    for (int i = 0; i < counts.length; i++) {
      addBest(ways.get(i), i, counts[i], left, next);
    }
    while (left > 0 && !next.isEmpty()) {
      Growth it = next.remove();
      int more = it.to() - counts[it.which()];
      if (more > left) {
        addBest(ways.get(it.which()), it.which(), counts[it.which()], left, next);
      } else {
        left -= more;
        counts[it.which()] = it.to();
        addBest(ways.get(it.which()), it.which(), it.to(), left, next);
      }
    }
    return counts;
  }

  /** Some more pieces of one of the partitions. */
  private record Growth(int which, int to, double saves) {}

  private static void addBest(
      NavigableMap<Integer, Way> ways, int which, int count, long left, Queue<Growth> next) {
    Way now = ways.get(count);
    Growth best = null;
    for (Map.Entry<Integer, Way> it : ways.tailMap(count, false).entrySet()) {
      int more = it.getKey() - count;
      double saves = now == null ? 0 : (double) (now.cost() - it.getValue().cost()) / more;
      if (more <= left && saves > (best == null ? 0 : best.saves())) {
        best = new Growth(which, it.getKey(), saves);
      }
    }
    if (best != null) {
      next.add(best);
    }
  }
}
