package mandala.core.engine;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a session may do, ready to be asked at points or swept as a whole: whose allows count, whose
 * denies, and what a delegation covers (sections 5 to 7).
 *
 * @param allows pieces of which any gives
 * @param denies pieces of which any takes away
 * @param cover where and what the delegations in force let through; null where nobody is acted for
 * @param mfa whether a second factor counts
 */
record View(
    Snapshot it, List<Pieces> allows, List<Pieces> denies, @Nullable Pieces cover, boolean mfa) {

  /** A principal for itself. */
  static View of(Snapshot it, Person person, boolean mfa) {
    return new View(
        it, List.of(person.standing, person.activated), List.of(person.denies), null, mfa);
  }

  /** One principal acting for another. */
  static View of(Snapshot it, Person actor, Person actedFor, Pieces cover, boolean mfa) {
    return new View(
        it, List.of(actedFor.standing), List.of(actedFor.denies, actor.denies), cover, mfa);
  }

  boolean denied(int permission, int at) {
    return any(denies, permission, at, true);
  }

  private boolean any(List<Pieces> lists, int permission, int at, boolean withFactor) {
    for (Pieces pieces : lists) {
      if (pieces.holds(it, at, permission, withFactor)) {
        return true;
      }
    }
    return false;
  }

  private boolean granted(int permission, int at) {
    return any(allows, permission, at, mfa) && !denied(permission, at);
  }

  /** {@return the resource of a gate for a position}, or -1 where there is none (section 6) */
  static int gateAt(Snapshot it, int gate, int at) {
    int account = it.places.account[at];
    int here = at;
    while (here >= 0 && it.places.account[here] == account) {
      if (it.rights.bit[it.places.type[here]][gate] >= 0) {
        return here;
      }
      here = it.places.parent[here];
    }
    return -1;
  }

  private boolean usable(int permission, int at) {
    if (!granted(permission, at)) {
      return false;
    }
    for (int gate : it.rights.gates[permission]) {
      int where = gateAt(it, gate, at);
      if (where < 0 || !usable(gate, where)) {
        return false;
      }
    }
    return true;
  }

  /** {@return the verdict at a position where the permission applies} */
  Verdict verdict(int permission, int at) {
    if (denied(permission, at)) {
      return Verdict.DENIED;
    }
    if (cover != null && !cover.holds(it, at, permission, true)) {
      return Verdict.NONE;
    }
    if (usable(permission, at)) {
      return Verdict.ALLOWED;
    }
    return granted(permission, at) ? Verdict.BLOCKED : Verdict.NONE;
  }
}
