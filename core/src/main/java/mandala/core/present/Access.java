package mandala.core.present;

import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import mandala.core.compare.AccessDiff;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.space.Spans;
import mandala.core.engine.Engine;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.PermissionReach;
import mandala.core.model.Catalogue;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Difference;
import mandala.core.question.Extent;
import mandala.core.question.Figure;
import mandala.core.question.Region;
import mandala.core.question.Verdict;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/** The whole access of one session over all resources. Immutable. */
public final class Access {

  final Snapshot it;
  final AccessMap accessMap;
  private final @Nullable Verdict refusal;

  public Access(Snapshot it, @Nullable Verdict refusal, AccessMap accessMap) {
    this.it = it;
    this.refusal = refusal;
    this.accessMap = accessMap;
  }

  /** {@return why there is no access at all}: inactive or no delegation */
  public Optional<Verdict> refusal() {
    return Optional.ofNullable(refusal);
  }

  /** {@return the model it was told of} */
  public Catalogue catalogue() {
    return it.catalogue;
  }

  /**
   * {@return the verdict on a permission and a resource}, as {@link Engine#decide} would give it
   *
   * @throws IllegalArgumentException if either is unknown
   */
  public Verdict verdict(PermissionKey permission, ResourceKey resource) {
    int p = number(permission);
    int at = it.places.find(resource);
    if (at < 0) {
      throw new IllegalArgumentException("There is no resource '" + resource + "'");
    }
    if (refusal != null) {
      return refusal;
    }
    int bit = it.rights.bit[it.places.type[at]][p];
    return bit < 0 ? Verdict.NOT_APPLICABLE : bit(at, bit);
  }

  private int number(PermissionKey permission) {
    Integer p = it.rights.permissionId.get(permission);
    if (p == null) {
      throw new IllegalArgumentException("There is no permission '" + permission + "'");
    }
    return p;
  }

  /** {@return the verdict on a bit of a position's type}, where the session is not refused */
  Verdict bit(int at, int bit) {
    return accessMap.verdict(it.rights.offset[it.places.type[at]] + (bit >> 6), 1L << bit, at);
  }

  /** {@return whether one of some permissions is allowed on one of some places} */
  public boolean allows(PermissionReach permissions, PermissionReach.Places on) {
    return refusal == null && permissions.isAllowed(accessMap, on);
  }

  /** {@return every verdict on some permissions on some places} */
  public Set<Verdict> verdicts(PermissionReach permissions, PermissionReach.Places on) {
    return refusal == null ? permissions.verdicts(accessMap, on) : EnumSet.of(refusal);
  }

  /** {@return whether anything is allowed on a resource}; on an unknown one nothing is */
  public boolean reaches(ResourceKey resource) {
    int at = it.places.find(resource);
    if (at < 0 || refusal != null) {
      return false;
    }
    boolean[] any = new boolean[1];
    int type = it.places.type[at];
    for (int lane = 0; lane < it.rights.rowLength; lane++) {
      if (it.rights.laneType[lane] == type) {
        accessMap.runs(lane, at, at + 1, (_, _, mask) -> any[0] |= accessMap.allowed(mask) != 0);
      }
    }
    return any[0];
  }

  /** {@return the number of rights}: pairs of permission and resource that are allowed */
  public long rights() {
    return sum(0, it.places.count, (_, allowed) -> Long.bitCount(allowed));
  }

  /** {@return the number of rights in an extent}, doors included where it has them */
  public long rights(Extent extent) {
    return sum(extent, (_, allowed) -> Long.bitCount(allowed));
  }

  /** {@return what the rights in an extent weigh} (section 12), doors included where it has them */
  public long exposure(Extent extent) {
    return sum(extent, it.rights::weight);
  }

  /** What the rights on one resource count, as bits of a lane. */
  private interface Weight {
    long of(int lane, long allowed);
  }

  private long sum(Extent extent, Weight weight) {
    Spans.Builder told = new Spans.Builder();
    if (extent.in() == null || extent.doors()) {
      told.add(0, it.places.count, Spans.NO_FLOOR);
    } else {
      int top = it.places.accountAt[Areas.account(it, extent.in())];
      told.add(top, it.places.end[top], Spans.NO_FLOOR);
    }
    Spans where = Areas.within(it, told.build(), Areas.only(it, extent));
    long sum = 0;
    for (int i = 0; i < where.size(); i++) {
      sum += sum(where.start[i], where.end[i], weight);
    }
    return sum;
  }

  private long sum(int from, int to, Weight weight) {
    long[] sum = new long[1];
    for (int lane = 0; lane < it.rights.rowLength; lane++) {
      int inLane = lane;
      int type = it.rights.laneType[lane];
      accessMap.runs(
          lane,
          from,
          to,
          (start, end, mask) -> {
            long allowed = accessMap.allowed(mask);
            if (allowed != 0) {
              sum[0] += weight.of(inLane, allowed) * it.places.count(type, start, end);
            }
          });
    }
    return sum[0];
  }

  /** {@return the permissions that are allowed on any resource}, in no order */
  public Set<PermissionKey> permissions() {
    Set<PermissionKey> found = new HashSet<>();
    if (refusal == null) {
      for (int lane = 0; lane < it.rights.rowLength; lane++) {
        add(lane, found);
      }
    }
    return found;
  }

  private void add(int lane, Set<PermissionKey> into) {
    int type = it.rights.laneType[lane];
    long[] any = new long[1];
    accessMap.runs(
        lane,
        0,
        it.places.count,
        (start, end, mask) -> {
          long allowed = accessMap.allowed(mask);
          if ((allowed & ~any[0]) != 0 && it.places.count(type, start, end) > 0) {
            any[0] |= allowed;
          }
        });
    int first = (lane - it.rights.offset[type]) << 6;
    for (long rest = any[0]; rest != 0; rest &= rest - 1) {
      int bit = first + Long.numberOfTrailingZeros(rest);
      into.add(it.rights.permissions.get(it.rights.ofType[type][bit]).key());
    }
  }

  /**
   * Resources that stand next to each other in the order of the tree and are alike in one
   * permission.
   *
   * @param first the first of them
   * @param last the last of them
   * @param count how many there are to which the permission applies
   */
  public record Interval(ResourceKey first, ResourceKey last, int count) {}

  /**
   * {@return where a permission is allowed, as intervals in the order of the tree}, for each type
   * to which it applies apart, types in the model's order
   *
   * @throws IllegalArgumentException if the permission is unknown
   */
  public List<Interval> intervals(PermissionKey permission) {
    int p = number(permission);
    List<Interval> intervals = new ArrayList<>();
    for (int t = 0; t < it.rights.types.size(); t++) {
      int bit = it.rights.bit[t][p];
      if (bit >= 0) {
        intervals(t, it.rights.offset[t] + (bit >> 6), 1L << bit, intervals);
      }
    }
    return intervals;
  }

  private void intervals(int type, int lane, long bit, List<Interval> into) {
    int[] positions = it.places.ofType[type];
    int[] open = {-1, -1};
    accessMap.runs(
        lane,
        0,
        it.places.count,
        (start, end, mask) -> {
          if ((accessMap.allowed(mask) & bit) != 0) {
            int from = IntList.lowerBound(positions, start);
            int to = IntList.lowerBound(positions, end);
            if (from < to) {
              if (open[1] != from) {
                close(positions, open, into);
                open[0] = from;
              }
              open[1] = to;
            }
          }
        });
    close(positions, open, into);
  }

  private void close(int[] positions, int[] open, List<Interval> into) {
    if (open[0] >= 0) {
      into.add(
          new Interval(
              it.places.key(positions[open[0]]),
              it.places.key(positions[open[1] - 1]),
              open[1] - open[0]));
    }
  }

  /**
   * {@return what another access has that this one has not, and the other way round}
   *
   * @param other of the same model, or of one before or after some changes
   */
  public Difference difference(Access other) {
    Spans all = Spans.of(0, it.places.count, Spans.NO_FLOOR);
    AccessDiff differing = new AccessDiff(it, other.it, all);
    differing.add(accessMap, other.accessMap);
    return differing.result();
  }

  /**
   * {@return what is allowed in any of some accesses}: all that somebody could do for themselves
   * and for others together. What the first denies and no other allows stays denied.
   *
   * @param accesses at least one; told in the model of the first
   */
  public static Access together(List<Access> accesses) {
    return CombinedAccess.of(accesses, CombinedAccess::together);
  }

  /**
   * {@return what is allowed in at least so many of some accesses}: a common core
   *
   * @param accesses at least one; told in the model of the first
   * @param least 1 to their number
   * @throws IllegalArgumentException if there are not so many
   */
  public static Access shared(List<Access> accesses, int least) {
    if (least < 1 || least > accesses.size()) {
      throw new IllegalArgumentException(
          "At least " + least + " of " + accesses.size() + " accesses cannot be");
    }
    return CombinedAccess.of(accesses, CombinedAccess.shared(least));
  }

  /** {@return what is allowed here and not in another access}, in the model of this one */
  public Access beyond(Access other) {
    return CombinedAccess.of(List.of(this, other), CombinedAccess::beyond);
  }

  /**
   * {@return the first resource of an account on which a permission is allowed here and not in
   * another access, or the other way round}
   *
   * @param other of the same model, or of one before or after some changes
   */
  public Optional<ResourceKey> sampleOfDifference(
      Access other, PermissionKey permission, AccountKey account) {
    for (Access one : List.of(this, other)) {
      Access two = one == this ? other : this;
      if (!one.it.rights.permissionId.containsKey(permission)) {
        continue;
      }
      int p = one.number(permission);
      int in = one.it.catalogue.accounts().number(account);
      for (int type = 0; in >= 0 && type < one.it.rights.types.size(); type++) {
        int bit = one.it.rights.bit[type][p];
        int[] positions = one.it.places.ofType[type];
        int end = one.it.places.ownEnd[in];
        for (int i = IntList.lowerBound(positions, one.it.places.accountAt[in]);
            bit >= 0 && i < positions.length && positions[i] < end;
            i++) {
          ResourceKey key = one.it.places.key(positions[i]);
          if (one.bit(positions[i], bit) == Verdict.ALLOWED && !two.allows(permission, key)) {
            return Optional.of(key);
          }
        }
      }
    }
    return Optional.empty();
  }

  private boolean allows(PermissionKey permission, ResourceKey resource) {
    return it.rights.permissionId.containsKey(permission)
        && it.places.find(resource) >= 0
        && verdict(permission, resource) == Verdict.ALLOWED;
  }

  /**
   * {@return the facts of the mandala}
   *
   * @throws IllegalArgumentException if the extent names an unknown account
   */
  public Figure figure(Extent extent) {
    return Figures.of(this, extent);
  }

  /**
   * {@return the tree folded into regions of equal rights}, in the order of the tree
   *
   * @throws IllegalArgumentException if the extent names an unknown account
   */
  public List<Region> regions(Extent extent) {
    return regions(extent, Integer.MAX_VALUE);
  }

  /**
   * {@return the tree folded into regions of equal rights}, down to a depth
   *
   * @param depth how many levels of trees and accounts to draw up below the areas; {@link #inside}
   *     gives what lies deeper
   * @throws IllegalArgumentException if the extent names an unknown account
   */
  public List<Region> regions(Extent extent, int depth) {
    return Regions.of(this, extent, depth);
  }

  /**
   * {@return the regions directly within a region that was cut off}, none where all in it is alike
   *
   * @param top the top of the region, a resource of the extent
   * @throws IllegalArgumentException if there is no such resource, or the extent names an unknown
   *     account
   */
  public List<Region> inside(Extent extent, ResourceKey top, int depth) {
    return Regions.inside(this, extent, top, depth);
  }

  /** {@return how many resources an extent covers}, without bridges */
  public int size(Extent extent) {
    int size = 0;
    for (int top : Areas.tops(it, extent)) {
      size += it.places.count(it.places.under(top));
    }
    return size;
  }
}
