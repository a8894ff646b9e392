package mandala.core.compare;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.AreaIndex;
import mandala.core.compiled.space.Spans;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.SegmentCollector;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Difference;
import mandala.core.question.Verdict;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * Adds up what differs between access maps, run against run.
 *
 * <p>1. {@link #add} goes through both access maps lane by lane; where runs differ in what is
 * allowed, {@link #stretch} counts the resources. 2. What moved is compared apart, where it was
 * with where it is ({@link #moved}). Where the two snapshots number things differently, {@link
 * #byKey} compares resource by resource. Cost: the runs; by key all resources and their
 * permissions.
 */
public final class AccessDiff {

  private final Snapshot before;
  private final Snapshot after;
  private final Spans where;
  private final Map<Long, long[]> sums = new HashMap<>();

  /** Of accounts and permissions that are no more, for which there is no number afterwards. */
  private final Map<Gone, Long> gone = new HashMap<>();

  private record Gone(AccountKey account, PermissionKey permission) {}

  private final AreaIndex areas;
  private final AreaIndex areasAfter;

  /** By the top of an area, as it is numbered before or after. */
  private final Map<Integer, long[]> areaSums = new HashMap<>();

  private final Map<Integer, long[]> areaSumsAfter = new HashMap<>();

  private long gained;
  private long lost;

  /** Positions at which something else stands than before; null where nothing moved. */
  private final int @Nullable [] moves;

  /**
   * Begins at nothing.
   *
   * @param where the positions to compare, as both snapshots number them
   */
  public AccessDiff(Snapshot before, Snapshot after, Spans where) {
    this.before = before;
    this.after = after;
    this.where = where;
    this.areas = new AreaIndex(before.places);
    this.areasAfter = new AreaIndex(after.places);
    this.moves = sameArray(before.places.node, after.places.node) ? null : moves();
  }

  private AccessDiff(AccessDiff over) {
    before = over.before;
    after = over.after;
    where = over.where;
    areas = over.areas;
    areasAfter = over.areasAfter;
    moves = over.moves;
  }

  /** {@return another that begins at nothing, over the same} */
  AccessDiff another() {
    return new AccessDiff(this);
  }

  /** The very same array: nothing came, went or moved. */
  @SuppressWarnings("ReferenceEquality")
  private static boolean sameArray(int[] one, int[] other) {
    return one == other;
  }

  private boolean sameNumbers() {
    return before.grantIds == after.grantIds && before.rights == after.rights;
  }

  private int[] moves() {
    IntList moved = new IntList();
    int count = Math.min(before.places.count, after.places.count);
    for (int at = 0; at < count && sameNumbers(); at++) {
      if (isOther(at)) {
        moved.add(at);
      }
    }
    return moved.toArray();
  }

  /** Whether something else stands at a position, or something of another type. */
  private boolean isOther(int at) {
    return before.places.node[at] != after.places.node[at]
        || before.places.type[at] != after.places.type[at];
  }

  /** Adds what the second access map has and the first has not, and the other way round. */
  public void add(AccessMap first, AccessMap second) {
    add(first, second, where, SegmentCollector.ALL_LANES);
  }

  /** Adds what differs at some places and in some lanes, folded; the rest is known to be alike. */
  public void add(AccessMap first, AccessMap second, Spans places, long lanes) {
    if (!sameNumbers()) {
      byKey(first, second);
      return;
    }
    for (int lane = 0; lane < before.rights.rowLength; lane++) {
      for (int i = 0; i < places.size() && (lanes & Rights.fold(lane)) != 0; i++) {
        lane(first, second, lane, places.start[i], places.end[i]);
      }
    }
    if (moves != null) {
      moved(first, second, moves);
    }
  }

  private void lane(AccessMap first, AccessMap second, int lane, int from, int to) {
    int at = from;
    while (at < to) {
      int end = Math.min(to, Math.min(first.end(lane, at), second.end(lane, at)));
      long was = first.allowed(first.maskAt(lane, at));
      long is = second.allowed(second.maskAt(lane, at));
      if (was != is) {
        stretch(lane, at, end, is & ~was, was & ~is);
      }
      at = end;
    }
  }

  /** Counts by area; positions that hold something else than before are left out. */
  private void stretch(int lane, int from, int to, long more, long less) {
    int type = before.rights.laneType[lane];
    int[] positions = before.places.ofType[type];
    int area = -1;
    int many = 0;
    for (int i = IntList.lowerBound(positions, from);
        i < positions.length && positions[i] < to;
        i++) {
      int at = positions[i];
      if (moves != null && isOther(at)) {
        continue;
      }
      int top = areas.top(at);
      if (top != area) {
        note(area, lane, more, less, many);
        area = top;
        many = 0;
      }
      many++;
    }
    note(area, lane, more, less, many);
  }

  private void note(int area, int lane, long more, long less, int many) {
    if (many > 0) {
      int account = before.places.account[area];
      int type = before.rights.laneType[lane];
      int base = (lane - before.rights.offset[type]) << 6;
      for (long bits = more | less; bits != 0; bits &= bits - 1) {
        int bit = Long.numberOfTrailingZeros(bits);
        boolean plus = (more & 1L << bit) != 0;
        add(account, before.rights.ofType[type][base + bit], plus ? many : 0, plus ? 0 : many);
      }
      add(areaSums, area, (long) many * Long.bitCount(more), (long) many * Long.bitCount(less));
    }
  }

  private static void add(Map<Integer, long[]> sums, int area, long plus, long minus) {
    long[] sum = sums.computeIfAbsent(area, _ -> new long[2]);
    sum[0] += plus;
    sum[1] += minus;
  }

  /** One right that came or went: it counts for the area where it is, or else where it was. */
  private void addArea(int was, int is, boolean plus) {
    if (is >= 0) {
      add(areaSumsAfter, areasAfter.top(is), plus ? 1 : 0, plus ? 0 : 1);
    } else {
      add(areaSums, areas.top(was), plus ? 1 : 0, plus ? 0 : 1);
    }
  }

  private void add(int account, int permission, long plus, long minus) {
    long[] sum = sums.computeIfAbsent((long) account << 32 | permission, _ -> new long[2]);
    sum[0] += plus;
    sum[1] += minus;
    gained += plus;
    lost += minus;
  }

  /** What came or moved, where it is now; what went, where it was. */
  private void moved(AccessMap first, AccessMap second, int[] positions) {
    for (int at : positions) {
      if (after.places.isThere(at)) {
        compare(first, before.places.find(after.places.key(at)), second, at);
      }
      if (before.places.isThere(at) && after.places.find(before.places.key(at)) < 0) {
        compare(first, at, second, -1);
      }
    }
  }

  private void byKey(AccessMap first, AccessMap second) {
    for (int at = 0; at < after.places.count; at++) {
      if (after.places.isThere(at)) {
        ResourceKey key = after.places.key(at);
        compare(first, before.places.find(key), second, at);
      }
    }
    for (int at = 0; at < before.places.count; at++) {
      if (before.places.isThere(at) && after.places.find(before.places.key(at)) < 0) {
        compare(first, at, second, -1);
      }
    }
  }

  private void compare(AccessMap first, int was, AccessMap second, int is) {
    Map<PermissionKey, Integer> permissions = after.rights.permissionId;
    for (Map.Entry<PermissionKey, Integer> entry : permissions.entrySet()) {
      boolean has = is >= 0 && allowed(after, second, entry.getValue(), is);
      Integer old = before.rights.permissionId.get(entry.getKey());
      boolean had = was >= 0 && old != null && allowed(before, first, old, was);
      int account = is >= 0 ? after.places.account[is] : sameAccount(was);
      if (has != had) {
        addArea(was, is, has);
      }
      if (has != had && account >= 0) {
        add(account, entry.getValue(), has ? 1 : 0, had ? 1 : 0);
      } else if (has != had) {
        addGone(was, entry.getKey());
      }
    }
    for (Map.Entry<PermissionKey, Integer> entry : before.rights.permissionId.entrySet()) {
      if (!permissions.containsKey(entry.getKey())
          && was >= 0
          && allowed(before, first, entry.getValue(), was)) {
        addArea(was, is, false);
        addGone(was, entry.getKey());
      }
    }
  }

  private AccountKey accountBefore(int was) {
    return before.catalogue.accounts().the(before.places.account[was]).key();
  }

  private int sameAccount(int was) {
    return after.catalogue.accounts().number(accountBefore(was));
  }

  private void addGone(int was, PermissionKey permission) {
    gone.merge(new Gone(accountBefore(was), permission), 1L, Long::sum);
    lost++;
  }

  private static boolean allowed(Snapshot it, AccessMap accessMap, int permission, int at) {
    int type = it.places.type[at];
    int bit = it.rights.bit[type][permission];
    return bit >= 0
        && accessMap.verdict(it.rights.offset[type] + (bit >> 6), 1L << bit, at) == Verdict.ALLOWED;
  }

  long gained() {
    return gained;
  }

  long lost() {
    return lost;
  }

  /** Adds what another has added up. */
  void join(AccessDiff other) {
    other.sums.forEach((key, sum) -> {
      long[] mine = sums.computeIfAbsent(key, _ -> new long[2]);
      mine[0] += sum[0];
      mine[1] += sum[1];
    });
    other.areaSums.forEach((area, sum) -> add(areaSums, area, sum[0], sum[1]));
    other.areaSumsAfter.forEach((area, sum) -> add(areaSumsAfter, area, sum[0], sum[1]));
    other.gone.forEach((key, many) -> gone.merge(key, many, Long::sum));
    gained += other.gained;
    lost += other.lost;
  }

  public Difference result() {
    List<Difference.Line> lines = new ArrayList<>();
    sums.forEach((key, sum) -> {
      AccountKey where = after.catalogue.accounts().the((int) (key >> 32)).key();
      PermissionKey what = after.rights.permissions.get(key.intValue()).key();
      lines.add(new Difference.Line(where, what, sum[0], sum[1]));
    });
    gone.forEach(
        (key, many) -> lines.add(new Difference.Line(key.account(), key.permission(), 0, many)));
    lines.sort(
        Comparator.comparing((Difference.Line line) -> line.account().value())
            .thenComparing(line -> line.permission().value()));
    return new Difference(gained, lost, lines, areas());
  }

  private List<Difference.Area> areas() {
    Map<ResourceKey, Difference.Area> found = new HashMap<>();
    areaSums.forEach((top, sum) -> merge(before, top, sum, found));
    areaSumsAfter.forEach((top, sum) -> merge(after, top, sum, found));
    return found.values().stream()
        .sorted(
            Comparator.comparing((Difference.Area area) -> area.account().value())
                .thenComparing(area -> !area.organisation())
                .thenComparing(area -> area.top().value()))
        .toList();
  }

  private static void merge(
      Snapshot it, int top, long[] sum, Map<ResourceKey, Difference.Area> found) {
    AccountKey account = it.catalogue.accounts().the(it.places.account[top]).key();
    found.merge(
        it.places.key(top),
        new Difference.Area(it.places.key(top), it.places.implicit(top), account, sum[0], sum[1]),
        (one, other) ->
            new Difference.Area(
                other.top(),
                other.organisation(),
                other.account(),
                one.gained() + other.gained(),
                one.lost() + other.lost()));
  }
}
