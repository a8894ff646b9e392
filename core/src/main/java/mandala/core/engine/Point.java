package mandala.core.engine;

import java.util.function.IntPredicate;
import mandala.core.model.Permission.AccessClass;
import org.jspecify.annotations.Nullable;

/**
 * Decides about single resources without compiling anybody: each subject of the principal has its
 * lines in one array sorted by first position, and only lines whose span holds the position are
 * looked at.
 *
 * <p>1. {@link #denied} looks through the denying lines, {@link #allowed} through the allowing
 * ones, both by {@link #any}. 2. {@link #hits} judges a line that spans the position. 3. {@link
 * #usable} asks for the gates (section 6).
 *
 * <p>Cost: one pass over the spans of the principal's subjects up to the position, about a thousand
 * in a large model, and a few memory accesses for each line that spans it. Source: sections 4 to 7.
 */
final class Point {

  private static final int FULL_UNIT = 1;
  private static final int VIEW_UNIT = 1 << 1;
  private static final int UNKNOWN = -1;

  private final Snapshot it;
  private final Places places;
  private final Rights rights;

  /** Whose allows count, and whose denies do besides. */
  private final Who who;

  private final @Nullable Who actor;

  /** Whether a second factor counts; whether what is switched on does. */
  private final boolean mfa;

  Point(Who who, @Nullable Who actor, boolean mfa) {
    this.it = who.it;
    this.places = it.places;
    this.rights = it.rights;
    this.who = who;
    this.actor = actor;
    this.mfa = mfa;
  }

  boolean denied(int permission, int at) {
    return denied(who, permission, at) || (actor != null && denied(actor, permission, at));
  }

  private boolean denied(Who whose, int permission, int at) {
    return any(whose, permission, at, true);
  }

  /** {@return whether some allow gives it}, denies and gates aside */
  boolean allowed(int permission, int at) {
    return it.directory.live[places.account[at]] && any(who, permission, at, false);
  }

  private boolean any(Who whose, int permission, int at, boolean denying) {
    boolean view = rights.permissions.get(permission).accessClass() == AccessClass.VIEW;
    long[] givers = it.rows.bits(permission, denying, mfa);
    boolean belongs = denying || whose.belongsTo(places.account[at]);
    int refused = denying || view ? 0 : Line.VIEW;
    refused |= actor == null || denying ? 0 : Line.JUST_IN_TIME;
    int relative = UNKNOWN;
    int[] subjects = whose.subjects;
    long[] @Nullable [] lists = new long[subjects.length][];
    for (int i = 0; i < lists.length; i++) {
      lists[i] = it.lines(denying, subjects[i]);
    }
    for (int s = 0; s < lists.length; s++) {
      long[] lines = lists[s];
      if (lines == null) {
        continue;
      }
      boolean wide = belongs || Line.kind(subjects[s]) == Line.PUBLIC;
      int n = lines.length / 3;
      for (int i = 0; i < n; i++) {
        long span = lines[i];
        if (Line.start(span) > at) {
          break;
        }
        int flags = Line.flags(span);
        if (at >= Line.end(span)
            || (flags & refused) != 0
            || (!wide && (flags & Line.BRIDGE) == 0)) {
          continue;
        }
        if ((flags & Line.RELATIVE) != 0) {
          relative = relative == UNKNOWN ? relative(whose, at) : relative;
          boolean viewed = denying || view || (relative >> 8 & FULL_UNIT) != 0;
          if ((flags & Line.RELATIVE & ~relative) != 0
              || (!viewed && (flags & Line.OWN_UNIT) != 0)) {
            continue;
          }
        }
        long what = lines[n + i];
        if (People.has(givers, Line.given(what))
            && hits(whose, what, flags, span, (int) lines[2 * n + i], at, denying)) {
          return true;
        }
      }
    }
    return false;
  }

  /**
   * {@return whether one of some assignments, in force, covers a position for an allow}, whatever
   * it gives
   *
   * @param which of them, by number
   */
  boolean isCoveredBy(IntPredicate which, int at) {
    int relative = relative(who, at);
    for (int subject : who.subjects) {
      long[] lines = it.lines(false, subject);
      int n = lines == null ? 0 : lines.length / 3;
      boolean wide = who.belongsTo(places.account[at]) || Line.kind(subject) == Line.PUBLIC;
      for (int i = 0; i < n && lines != null && wide; i++) {
        long span = lines[i];
        int flags = Line.flags(span);
        int ref = (int) lines[2 * n + i];
        if (Line.start(span) <= at
            && at < Line.end(span)
            && ref >= 0
            && (flags & (Line.VIEW | Line.BRIDGE)) == 0
            && (flags & Line.RELATIVE & ~relative) == 0
            && which.test(ref)
            && hits(who, lines[n + i], flags, span, ref, at, false)) {
          return true;
        }
      }
    }
    return false;
  }

  /** Judges a line that spans a position and gives what is asked. */
  private boolean hits(
      Who whose, long what, int flags, long span, int ref, int at, boolean denying) {
    int floor = Line.start(span);
    if ((flags & Line.ASK_GROUND) != 0) {
      Ground ground = it.grounds.require(Line.ground(what));
      int i = ground.spans().find(at);
      if (i < 0 || (ground.type() >= 0 && ground.type() != places.type[at])) {
        return false;
      }
      floor = ground.spans().floor[i];
    }
    if ((flags & Line.CROSSES) == 0 && places.seal[at] > floor && !named(flags, at)) {
      return false;
    }
    return (flags & Line.SPECIAL) == 0
        || whose.holds(ref, !denying && (flags & Line.JUST_IN_TIME) != 0);
  }

  /** A relative term names the account, or the record itself the principal (section 4, seals). */
  private boolean named(int flags, int at) {
    return (flags & Line.SELF) != 0
        || ((flags & (Line.OWN_ACCOUNT | Line.OWN_UNIT)) != 0
            && places.seal[at] <= places.accountAt[places.account[at]]);
  }

  /** Which relative terms hold at a position, as flags; how the unit is reached, eight bits up. */
  private int relative(Who whose, int at) {
    Profile profile = whose.profile;
    if (profile == null) {
      return 0;
    }
    int holds = places.account[at] == profile.home ? Line.OWN_ACCOUNT : 0;
    int owner = places.owner[at];
    if (owner == whose.id) {
      holds |= Line.SELF;
    }
    for (int up = owner; up >= 0; up = it.directory.profiles.require(up).manager) {
      if (up == whose.id) {
        holds |= Line.TEAM;
        break;
      }
    }
    int unit = places.unit[at];
    if (unit >= 0) {
      holds |= inAny(unit, profile.fullUnits) ? Line.OWN_UNIT | FULL_UNIT << 8 : 0;
      holds |= inAny(unit, profile.viewUnits) ? Line.OWN_UNIT | VIEW_UNIT << 8 : 0;
    }
    return holds;
  }

  private boolean inAny(int unit, int[] tops) {
    for (int top : tops) {
      if (it.directory.unitIsAtOrBelow(unit, top)) {
        return true;
      }
    }
    return false;
  }

  /** {@return whether it is granted and every gate is usable} (section 6) */
  boolean usable(int permission, int at) {
    return allowed(permission, at) && !denied(permission, at) && open(permission, at);
  }

  private boolean open(int permission, int at) {
    for (int gate : rights.gates[permission]) {
      int where = places.gateAt(rights, gate, at);
      if (where < 0 || !usable(gate, where)) {
        return false;
      }
    }
    return true;
  }

  /** {@return the verdict where the permission applies}, a delegation's cover aside */
  Verdict verdict(int permission, int at) {
    if (denied(permission, at)) {
      return Verdict.DENIED;
    }
    if (!allowed(permission, at)) {
      return Verdict.NONE;
    }
    return open(permission, at) ? Verdict.ALLOWED : Verdict.BLOCKED;
  }

  /** {@return whether a clause covers a position for the principal}, seals aside, reach in full */
  boolean covers(Ground ground, int at) {
    return ground.test(at, places.type[at])
        && (ground.flags() & Line.RELATIVE & ~relative(who, at)) == 0;
  }
}
