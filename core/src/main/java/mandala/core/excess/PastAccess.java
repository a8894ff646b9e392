package mandala.core.excess;

import mandala.core.compiled.Snapshot;
import mandala.core.compiled.space.Spans;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.AccessMapCache;
import mandala.core.evaluate.Begun;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.Ranges;
import mandala.core.evaluate.RightsCounter;
import mandala.core.model.key.PrincipalKey;

/**
 * What was allowed when a window began, told in the lanes and positions of a later snapshot. For
 * one thread.
 */
final class PastAccess {

  private final Snapshot now;
  private final Snapshot then;
  private final AccessMapCache.Comparison comparison;
  private final long at;

  /** By position now: the position then, or -1; empty where both snapshots are one. */
  private final int[] positions;

  /** By permission now: its number then, or -1. */
  private final int[] permissions;

  private final RightsCounter sweeping;
  private final RightsCounter sweepingThen;
  private AccessMap accessMap = AccessMap.EMPTY;
  private boolean same;

  /**
   * Looks back.
   *
   * @param at seconds since the epoch, when the window began
   */
  PastAccess(Snapshot now, Snapshot then, long at, PastNumbers numbers) {
    this.now = now;
    this.then = then;
    this.at = at;
    sweeping = new RightsCounter(now);
    sweepingThen = new RightsCounter(then);
    comparison = new AccessMapCache.Comparison(then, now, at);
    positions = numbers.positions;
    permissions = numbers.permissions;
  }

  /**
   * Looks at one who is asked about: by the model then, at the instant then.
   *
   * @param who the same, now, active
   * @return where anything may be allowed now that was not then; ask about these places only
   */
  @SuppressWarnings("ReferenceEquality") // one snapshot is asked about itself
  Spans of(PrincipalKey principal, PrincipalAtInstant who) {
    int id = then.principal(principal);
    same = now == then || (who.id == id && !comparison.mayDiffer(id));
    Spans all = Spans.of(0, now.places.count, Spans.NO_FLOOR);
    if (id < -1) {
      accessMap = AccessMap.EMPTY;
      return all;
    }
    PrincipalAtInstant before = PrincipalAtInstant.of(same ? now : then, id, at);
    Spans where = same ? Begun.since(who, before) : all;
    if (!before.active || where.size() == 0) {
      accessMap = AccessMap.EMPTY;
    } else if (same) {
      accessMap = sweeping.within(before, before.hasFactor(), new Ranges(now, where));
    } else {
      accessMap = sweepingThen.accessMap(before, before.hasFactor());
    }
    return where;
  }

  /** {@return which rights of a word of a position's type were allowed} */
  long allowed(int position, int word) {
    int type = now.places.type[position];
    if (same) {
      int lane = now.rights.offset[type] + word;
      return accessMap.allowed(accessMap.maskAt(lane, position));
    }
    int before = positions[position];
    if (before < 0) {
      return 0;
    }
    long allowed = 0;
    int[] bits = now.rights.bit[type];
    for (int p : now.rights.ofType[type]) {
      if (bits[p] >> 6 == word && wasAllowed(permissions[p], before)) {
        allowed |= 1L << bits[p];
      }
    }
    return allowed;
  }

  /** {@return up to which position what was allowed stays as it is at one} */
  int end(int position, int word) {
    return same
        ? accessMap.end(now.rights.offset[now.places.type[position]] + word, position)
        : position + 1;
  }

  private boolean wasAllowed(int permission, int position) {
    int type = then.places.type[position];
    int bit = permission < 0 ? -1 : then.rights.bit[type][permission];
    if (bit < 0) {
      return false;
    }
    int lane = then.rights.offset[type] + (bit >> 6);
    return (accessMap.allowed(accessMap.maskAt(lane, position)) & 1L << bit) != 0;
  }
}
