package mandala.core.present;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mandala.core.compiled.Snapshot;
import mandala.core.evaluate.AccessMap;
import mandala.core.model.key.PermissionKey;
import mandala.core.question.Verdict;

/**
 * Puts whole accesses together into one: lane by lane, stretch by stretch, as far as none of the
 * parts changes. Cost: the runs of all parts; a part of a model that numbers its places or rights
 * in another way is brought over position by position first ({@link #brought}).
 */
final class CombinedAccess {

  /** What is true where the parts stand so; reads and writes masks of one lane. */
  interface Rule {

    /**
     * Writes what holds.
     *
     * @param parts allowed, blocked and denied of each part, three words each
     * @param into allowed, blocked and denied, three words
     */
    void of(long[] parts, long[] into);
  }

  private CombinedAccess() {}

  /** {@return an access that holds what a rule makes of some}, in the model of the first */
  static Access of(List<Access> accesses, Rule rule) {
    Snapshot it = accesses.getFirst().it;
    List<AccessMap> accessMaps = new ArrayList<>();
    for (Access each : accesses) {
      accessMaps.add(brought(each, it));
    }
    long[] parts = new long[3 * accessMaps.size()];
    long[] made = new long[3];
    AccessMap accessMap =
        new AccessMap(
            it.rights.rowLength,
            null,
            (lane, sink) -> {
              int at = 0;
              while (at < it.places.count) {
                int end = it.places.count;
                for (int i = 0; i < accessMaps.size(); i++) {
                  AccessMap one = accessMaps.get(i);
                  int number = one.maskAt(lane, at);
                  parts[3 * i] = one.allowed(number);
                  parts[3 * i + 1] = one.blocked(number);
                  parts[3 * i + 2] = one.denied(number);
                  end = Math.min(end, one.end(lane, at));
                }
                rule.of(parts, made);
                sink.put(at, made[0], made[0] | made[1], made[2]);
                at = end;
              }
            });
    return new Access(it, null, accessMap);
  }

  /** Allowed where any part is, blocked or denied where nothing better is known. */
  static void together(long[] parts, long[] into) {
    into[0] = 0;
    into[1] = 0;
    into[2] = parts[2];
    for (int i = 0; i < parts.length; i += 3) {
      into[0] |= parts[i];
      into[1] |= parts[i + 1];
    }
    into[2] &= ~into[0];
    into[1] &= ~(into[0] | into[2]);
  }

  /** Allowed where the first part is and no other. */
  static void beyond(long[] parts, long[] into) {
    into[0] = parts[0];
    for (int i = 3; i < parts.length; i += 3) {
      into[0] &= ~parts[i];
    }
    into[1] = 0;
    into[2] = 0;
  }

  /** {@return a rule}: allowed where at least so many parts are */
  static Rule shared(int least) {
    int[] counts = new int[Long.SIZE];
    return (parts, into) -> {
      java.util.Arrays.fill(counts, 0);
      long any = 0;
      for (int i = 0; i < parts.length; i += 3) {
        any |= parts[i];
        for (long bits = parts[i]; bits != 0; bits &= bits - 1) {
          counts[Long.numberOfTrailingZeros(bits)]++;
        }
      }
      into[0] = 0;
      for (long bits = any; bits != 0; bits &= bits - 1) {
        int bit = Long.numberOfTrailingZeros(bits);
        into[0] |= counts[bit] >= least ? 1L << bit : 0;
      }
      into[1] = 0;
      into[2] = 0;
    };
  }

  /** {@return the access map of an access as another snapshot numbers places and rights} */
  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private static AccessMap brought(Access access, Snapshot to) {
    Snapshot from = access.it;
    boolean same =
        from.grantIds == to.grantIds
            && from.rights == to.rights
            && from.places.node == to.places.node;
    if (same || access.refusal().isPresent()) {
      return access.accessMap;
    }
    long[] words = new long[3];
    return new AccessMap(
        to.rights.rowLength,
        null,
        (lane, sink) -> {
          for (int at : to.places.ofType[to.rights.laneType[lane]]) {
            masks(access, from.places.find(to.places.key(at)), to, lane, words);
            sink.put(at, words[0], words[0] | words[1], words[2]);
          }
        });
  }

  /**
   * What was true at a position of another snapshot, as bits of a lane; nothing where it was not.
   */
  private static void masks(Access access, int was, Snapshot to, int lane, long[] words) {
    java.util.Arrays.fill(words, 0);
    if (was < 0) {
      return;
    }
    Snapshot from = access.it;
    Map<PermissionKey, Integer> known = from.rights.permissionId;
    int type = to.rights.laneType[lane];
    int[] permissions = to.rights.ofType[type];
    int base = (lane - to.rights.offset[type]) << 6;
    for (int b = base; b < Math.min(permissions.length, base + Long.SIZE); b++) {
      Integer p = known.get(to.rights.permissions.get(permissions[b]).key());
      int bit = p == null ? -1 : from.rights.bit[from.places.type[was]][p];
      Verdict verdict = bit < 0 ? Verdict.NOT_APPLICABLE : access.bit(was, bit);
      switch (verdict) {
        case ALLOWED -> words[0] |= 1L << (b - base);
        case BLOCKED -> words[1] |= 1L << (b - base);
        case DENIED -> words[2] |= 1L << (b - base);
        case ERROR, INACTIVE, NO_DELEGATION, NOT_APPLICABLE, NONE -> {
          // nothing holds
        }
      }
    }
  }
}
