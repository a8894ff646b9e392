package mandala.core.evaluate;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.function.IntPredicate;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.directory.PrincipalSets;
import mandala.core.compiled.directory.Profile;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.model.Permission.AccessClass;
import mandala.core.question.Verdict;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * Decides about single resources without compiling anybody: each subject of the principal has its
 * grant entries in one array sorted by first position, and only grant entries whose span holds the
 * position are looked at.
 *
 * <p>1. {@link #denied} looks through the denying grant entries, {@link #allowed} through the
 * allowing ones, both by {@link #any}. 2. {@link #hits} judges a grant entry that spans the
 * position. 3. {@link #usable} asks for the gates (section 6).
 *
 * <p>Cost: one pass over the spans of the principal's subjects up to the position, about a thousand
 * in a large model, and a few memory accesses for each grant entry that spans it. Source: sections
 * 4 to 7.
 */
public final class SingleDecision {

  private static final int FULL_UNIT = 1;
  private static final int VIEW_UNIT = 1 << 1;
  private static final int UNKNOWN = -1;

  private final Snapshot it;
  private final ResourceSpace places;
  private final Rights rights;

  /** Whose allows count, and whose denies do besides. */
  private final PrincipalAtInstant who;

  private final @Nullable PrincipalAtInstant actor;

  /** Whether a second factor counts; whether what is switched on does. */
  private final boolean mfa;

  public SingleDecision(PrincipalAtInstant who, @Nullable PrincipalAtInstant actor, boolean mfa) {
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

  private boolean denied(PrincipalAtInstant whose, int permission, int at) {
    return any(whose, permission, at, true);
  }

  /** {@return whether some allow gives it}, denies and gates aside */
  boolean allowed(int permission, int at) {
    return it.directory.live[places.account[at]] && any(who, permission, at, false);
  }

  private boolean any(PrincipalAtInstant whose, int permission, int at, boolean denying) {
    boolean view = rights.permissions.get(permission).accessClass() == AccessClass.VIEW;
    long[] givers = it.rows.bits(permission, denying, mfa);
    boolean belongs = denying || whose.belongsTo(places.account[at]);
    int refused = denying || view ? 0 : GrantEntry.VIEW;
    refused |= actor == null || denying ? 0 : GrantEntry.JUST_IN_TIME;
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
      boolean wide = belongs || GrantEntry.kind(subjects[s]) == GrantEntry.PUBLIC;
      int n = lines.length / 3;
      for (int i = 0; i < n; i++) {
        long span = lines[i];
        if (GrantEntry.start(span) > at) {
          break;
        }
        int flags = GrantEntry.flags(span);
        if (at >= GrantEntry.end(span)
            || (flags & refused) != 0
            || (!wide && (flags & GrantEntry.BRIDGE) == 0)) {
          continue;
        }
        if ((flags & GrantEntry.RELATIVE) != 0) {
          relative = relative == UNKNOWN ? relative(whose, at) : relative;
          boolean viewed = denying || view || (relative >> 8 & FULL_UNIT) != 0;
          if ((flags & GrantEntry.RELATIVE & ~relative) != 0
              || (!viewed && (flags & GrantEntry.OWN_UNIT) != 0)) {
            continue;
          }
        }
        long what = lines[n + i];
        if (PrincipalSets.has(givers, GrantEntry.given(what))
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
  public boolean isCoveredBy(IntPredicate which, int at) {
    int relative = relative(who, at);
    for (int subject : who.subjects) {
      long[] lines = it.lines(false, subject);
      int n = lines == null ? 0 : lines.length / 3;
      boolean wide =
          who.belongsTo(places.account[at]) || GrantEntry.kind(subject) == GrantEntry.PUBLIC;
      for (int i = 0; i < n && lines != null && wide; i++) {
        long span = lines[i];
        int flags = GrantEntry.flags(span);
        int ref = (int) lines[2 * n + i];
        if (GrantEntry.start(span) <= at
            && at < GrantEntry.end(span)
            && ref >= 0
            && (flags & (GrantEntry.VIEW | GrantEntry.BRIDGE)) == 0
            && (flags & GrantEntry.RELATIVE & ~relative) == 0
            && which.test(ref)
            && hits(who, lines[n + i], flags, span, ref, at, false)) {
          return true;
        }
      }
    }
    return false;
  }

  /** What may allow the principal anything, sorted by first position: one pass finds all. */
  private static final class Lines {
    final long[] span;
    final long[] what;
    final int[] ref;
    final int[] kind;

    Lines(int n) {
      span = new long[n];
      what = new long[n];
      ref = new int[n];
      kind = new int[n];
    }
  }

  private @Nullable Lines lines;

  /** Those of {@link #lines} that span the position asked about last, and how many were passed. */
  private final IntList open = new IntList();

  private int passed;
  private int last;

  private Lines lines() {
    if (lines == null) {
      List<long[]> all = new ArrayList<>();
      for (int subject : who.subjects) {
        long[] some = it.lines(false, subject);
        int n = some == null ? 0 : some.length / 3;
        for (int i = 0; i < n && some != null; i++) {
          all.add(new long[] {some[i], some[n + i], some[2 * n + i], GrantEntry.kind(subject)});
        }
      }
      all.sort(Comparator.comparingLong(each -> GrantEntry.start(each[0])));
      Lines sorted = new Lines(all.size());
      for (int i = 0; i < all.size(); i++) {
        long[] each = all.get(i);
        sorted.span[i] = each[0];
        sorted.what[i] = each[1];
        sorted.ref[i] = (int) each[2];
        sorted.kind[i] = (int) each[3];
      }
      lines = sorted;
    }
    return lines;
  }

  /** Goes on to a position; back to the first one where it lies before the last. */
  private void goTo(int at, Lines all) {
    if (at < last) {
      open.clear();
      passed = 0;
    }
    last = at;
    int left = 0;
    for (int i = 0; i < open.size(); i++) {
      if (at < GrantEntry.end(all.span[open.get(i)])) {
        open.set(left++, open.get(i));
      }
    }
    open.cut(left);
    while (passed < all.span.length && GrantEntry.start(all.span[passed]) <= at) {
      if (at < GrantEntry.end(all.span[passed])) {
        open.add(passed);
      }
      passed++;
    }
  }

  /**
   * Finds what gives the principal a permission on a position, denies and gates aside; what is not
   * in force or not activated, too. Fastest where positions are asked about in their order.
   *
   * @param found emptied, then filled
   */
  public void givers(int permission, int at, Givers found) {
    found.clear();
    boolean view = rights.permissions.get(permission).accessClass() == AccessClass.VIEW;
    long[] givers = it.rows.bits(permission, false, true);
    long[] free = it.rows.bits(permission, false, false);
    int relative = relative(who, at);
    boolean viewed = view || (relative >> 8 & FULL_UNIT) != 0;
    boolean belongs = who.belongsTo(places.account[at]);
    Lines all = lines();
    goTo(at, all);
    for (int o = 0; o < open.size(); o++) {
      int i = open.get(o);
      int flags = GrantEntry.flags(all.span[i]);
      int given = GrantEntry.given(all.what[i]);
      int ref = all.ref[i];
      if (PrincipalSets.has(givers, given)
          && (belongs || all.kind[i] == GrantEntry.PUBLIC || (flags & GrantEntry.BRIDGE) != 0)
          && (view || (flags & GrantEntry.VIEW) == 0)
          && (flags & GrantEntry.RELATIVE & ~relative) == 0
          && (viewed || (flags & GrantEntry.OWN_UNIT) == 0)
          && hits(who, all.what[i], flags & ~GrantEntry.SPECIAL, all.span[i], ref, at, false)) {
        boolean now =
            (flags & GrantEntry.SPECIAL) == 0
                || who.holds(ref, (flags & GrantEntry.JUST_IN_TIME) != 0);
        found.add(ref, now, PrincipalSets.has(free, given));
      }
    }
  }

  /** Judges a grant entry that spans a position and gives what is asked. */
  private boolean hits(
      PrincipalAtInstant whose, long what, int flags, long span, int ref, int at, boolean denying) {
    int floor = GrantEntry.start(span);
    if ((flags & GrantEntry.ASK_GROUND) != 0) {
      CompiledClause ground = it.grounds.require(GrantEntry.ground(what));
      int i = ground.spans().find(at);
      if (i < 0 || (ground.type() >= 0 && ground.type() != places.type[at])) {
        return false;
      }
      floor = ground.spans().floor[i];
    }
    if ((flags & GrantEntry.CROSSES) == 0 && places.seal[at] > floor && !named(flags, at)) {
      return false;
    }
    return (flags & GrantEntry.SPECIAL) == 0
        || whose.holds(ref, !denying && (flags & GrantEntry.JUST_IN_TIME) != 0);
  }

  /** A relative term names the account, or the record itself the principal (section 4, seals). */
  private boolean named(int flags, int at) {
    return (flags & GrantEntry.SELF) != 0
        || ((flags & (GrantEntry.OWN_ACCOUNT | GrantEntry.OWN_UNIT)) != 0
            && places.seal[at] <= places.accountAt[places.account[at]]);
  }

  /** Which relative terms hold at a position, as flags; how the unit is reached, eight bits up. */
  private int relative(PrincipalAtInstant whose, int at) {
    Profile profile = whose.profile;
    if (profile == null) {
      return 0;
    }
    int holds = places.account[at] == profile.home ? GrantEntry.OWN_ACCOUNT : 0;
    int owner = places.owner[at];
    if (owner == whose.id) {
      holds |= GrantEntry.SELF;
    }
    for (int up = owner; up >= 0; up = it.directory.profiles.require(up).manager) {
      if (up == whose.id) {
        holds |= GrantEntry.TEAM;
        break;
      }
    }
    int unit = places.unit[at];
    if (unit >= 0) {
      holds |= inAny(unit, profile.fullUnits) ? GrantEntry.OWN_UNIT | FULL_UNIT << 8 : 0;
      holds |= inAny(unit, profile.viewUnits) ? GrantEntry.OWN_UNIT | VIEW_UNIT << 8 : 0;
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
  public Verdict verdict(int permission, int at) {
    if (denied(permission, at)) {
      return Verdict.DENIED;
    }
    if (!allowed(permission, at)) {
      return Verdict.NONE;
    }
    return open(permission, at) ? Verdict.ALLOWED : Verdict.BLOCKED;
  }

  /** {@return whether a clause covers a position for the principal}, seals aside, reach in full */
  boolean covers(CompiledClause ground, int at) {
    return ground.test(at, places.type[at])
        && (ground.flags() & GrantEntry.RELATIVE & ~relative(who, at)) == 0;
  }
}
