package mandala.core.whocan;

import java.util.BitSet;
import java.util.function.IntConsumer;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.directory.PrincipalSets;
import mandala.core.compiled.directory.Profile;
import mandala.core.compiled.directory.TimeSpan;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.SingleDecision;
import mandala.core.model.Permission.AccessClass;
import mandala.core.table.IntList;

/**
 * Who has one permission on one resource, everybody at once (sections 2 to 6): the other way round
 * from {@link SingleDecision}.
 *
 * <ol>
 *   <li>{@link #candidates} walks up from the resource and names every grant entry that may cover
 *       it: the plain ones that begin at a place above, and those of the compiled clauses anchored
 *       there.
 *   <li>Each grant entry is judged as a point would judge it, and adds the members of its subject,
 *       groups walked down once, to the set of those it counts for.
 *   <li>{@link #allow} and {@link #deny} gather, {@link #usable} takes the gates off.
 * </ol>
 *
 * <p>Sets are bits by the number of the principal. Cost: the grant entries at the places above, the
 * members of their subjects, a few words for each 64 people. For one thread; a column of one
 * instant may be asked again and again.
 */
public final class PermissionHolders {

  private final Snapshot it;
  private final ResourceSpace places;
  private final long at;
  private final boolean mfa;
  private final long[] active;

  public PermissionHolders(Snapshot it, long at, boolean mfa) {
    this.it = it;
    this.places = it.places;
    this.at = at;
    this.mfa = mfa;
    this.active = it.people.active(it.directory, at);
  }

  /** Active principals. */
  long[] active() {
    return active;
  }

  /** {@return who is granted it}, gates aside: active, allowed and not denied */
  long[] granted(int permission, int position) {
    long[] set = allow(permission, position);
    long[] denied = deny(permission, position);
    for (int w = 0; w < set.length; w++) {
      set[w] &= ~denied[w] & active[w];
    }
    return set;
  }

  /** {@return who is granted it with all its gates} */
  long[] usable(int permission, int position) {
    long[] set = granted(permission, position);
    for (int gate : it.rights.gates[permission]) {
      int where = places.gateAt(it.rights, gate, position);
      long[] open = where < 0 ? new long[set.length] : usable(gate, where);
      for (int w = 0; w < set.length; w++) {
        set[w] &= open[w];
      }
    }
    return set;
  }

  /** {@return who is denied it}, active or not */
  long[] deny(int permission, int position) {
    long[] set = new long[it.people.words];
    Gathered gathered = new Gathered(permission, position, true, false, set, set);
    candidates(position, true, gathered);
    return set;
  }

  private long[] allow(int permission, int position) {
    int account = places.account[position];
    long[] wide = new long[it.people.words];
    if (!it.directory.live[account]) {
      return wide;
    }
    long[] local = new long[it.people.words];
    candidates(position, false, new Gathered(permission, position, false, false, local, wide));
    if (mfa) {
      long[] localFactor = new long[it.people.words];
      long[] wideFactor = new long[it.people.words];
      candidates(
          position,
          false,
          new Gathered(permission, position, false, true, localFactor, wideFactor));
      long[] factor = it.people.factor();
      for (int w = 0; w < wide.length; w++) {
        local[w] |= localFactor[w] & factor[w];
        wide[w] |= wideFactor[w] & factor[w];
      }
    }
    long[] belonging = it.people.belonging(it.directory, account, at);
    for (int w = 0; w < wide.length; w++) {
      wide[w] |= local[w] & belonging[w];
    }
    return wide;
  }

  private void candidates(int position, boolean denying, Gathered gathered) {
    for (int up = position; up >= 0; up = places.parent[up]) {
      gathered.takeAll((denying ? it.denyAt : it.allowAt).get(up), null);
    }
    BitSet seen = new BitSet();
    it.anchors.forEach(
        places,
        it.unitParents,
        position,
        number -> {
          CompiledClause ground = it.grounds.get(number);
          if (ground != null && !seen.get(number) && ground.test(position, places.type[position])) {
            seen.set(number);
            gathered.takeAll((denying ? it.denyOf : it.allowOf).get(number), ground);
          }
        });
  }

  /** The grant entries that give one permission on one resource, and for whom they count. */
  private final class Gathered {
    private final int position;
    private final boolean denying;
    private final boolean view;

    /** Who gives it: without a second factor, or with one and not without. */
    private final long[] givers;

    private final long[] but;

    /**
     * For whom grant entries count that belong to the account; for whom whatever they belong to.
     */
    private final long[] local;

    private final long[] wide;
    private final BitSet localGroups = new BitSet();

    Gathered(
        int permission,
        int position,
        boolean denying,
        boolean onlyWithFactor,
        long[] local,
        long[] wide) {
      this.position = position;
      this.denying = denying;
      this.view = it.rights.permissions.get(permission).accessClass() == AccessClass.VIEW;
      this.givers = it.rows.bits(permission, denying, onlyWithFactor);
      this.but = onlyWithFactor ? it.rows.bits(permission, false, false) : new long[0];
      this.local = local;
      this.wide = wide;
    }

    void takeAll(
        long @org.jspecify.annotations.Nullable [] list,
        @org.jspecify.annotations.Nullable CompiledClause ground) {
      int n = list == null ? 0 : list.length / 3;
      for (int i = 0; i < n && list != null; i++) {
        int given = (int) list[i];
        if (PrincipalSets.has(givers, given) && !PrincipalSets.has(but, given)) {
          take((int) (list[i] >>> 32), (int) list[n + i], list[2 * n + i], ground);
        }
      }
    }

    private void take(
        int subject, int ref, long span, @org.jspecify.annotations.Nullable CompiledClause ground) {
      int flags = GrantEntry.flags(span);
      if (position >= GrantEntry.end(span)
          || (!denying && !view && (flags & GrantEntry.VIEW) != 0)) {
        return;
      }
      if ((flags & GrantEntry.CROSSES) == 0 && !reaches(flags, GrantEntry.start(span), ground)) {
        return;
      }
      if ((flags & GrantEntry.SPECIAL) != 0 && ref >= 0 && !isInForce(ref)) {
        return;
      }
      boolean on = !denying && (flags & GrantEntry.JUST_IN_TIME) != 0;
      boolean bridge = (flags & GrantEntry.BRIDGE) != 0;
      boolean open = denying || bridge || GrantEntry.kind(subject) == GrantEntry.PUBLIC;
      long[] into = open ? wide : local;
      if ((flags & GrantEntry.RELATIVE) != 0 || on || bridge) {
        singly(subject, ref, flags, on, bridge, into);
      } else {
        members(
            subject,
            !open || denying ? localGroups : new BitSet(),
            p -> PrincipalSets.set(into, p));
      }
    }

    private boolean isInForce(int ref) {
      return it.times.getOr(ref, TimeSpan.ALWAYS).holdsAt(at);
    }

    private boolean reaches(
        int flags, int start, @org.jspecify.annotations.Nullable CompiledClause ground) {
      int seal = places.seal[position];
      int floor = ground == null ? start : ground.spans().floor[ground.spans().find(position)];
      return seal <= floor
          || (flags & GrantEntry.SELF) != 0
          || ((flags & (GrantEntry.OWN_ACCOUNT | GrantEntry.OWN_UNIT)) != 0
              && seal <= places.accountAt[places.account[position]]);
    }

    /** Members who must each be asked: for a relative term, an activation, a bridge's source. */
    private void singly(int subject, int ref, int flags, boolean on, boolean bridge, long[] into) {
      IntConsumer ask =
          p -> {
            if (isMeant(p, flags)) {
              boolean holds = true;
              if (on || bridge) {
                holds = PrincipalAtInstant.of(it, p, at).holds(ref, on);
              }
              if (holds) {
                PrincipalSets.set(into, p);
              }
            }
          };
      if ((flags & (GrantEntry.SELF | GrantEntry.TEAM)) == 0) {
        members(subject, new BitSet(), ask);
        return;
      }
      for (int p = places.owner[position]; p >= 0; ) {
        if (has(p, subject)) {
          ask.accept(p);
        }
        p = (flags & GrantEntry.SELF) != 0 ? -1 : it.directory.profiles.require(p).manager;
      }
    }

    private boolean has(int p, int subject) {
      for (int code : PrincipalAtInstant.of(it, p, at).subjects) {
        if (code == subject) {
          return true;
        }
      }
      return false;
    }

    private boolean isMeant(int p, int flags) {
      Profile profile = it.directory.profiles.require(p);
      if ((flags & GrantEntry.OWN_ACCOUNT) != 0 && profile.home != places.account[position]) {
        return false;
      }
      if ((flags & GrantEntry.OWN_UNIT) == 0) {
        return true;
      }
      int unit = places.unit[position];
      return unit >= 0
          && (isInAny(unit, profile.fullUnits)
              || ((denying || view) && isInAny(unit, profile.viewUnits)));
    }

    private boolean isInAny(int unit, int[] tops) {
      for (int top : tops) {
        if (it.directory.unitIsAtOrBelow(unit, top)) {
          return true;
        }
      }
      return false;
    }
  }

  /** Names the principals who have a subject; groups seen before are passed by. */
  public void members(int subject, BitSet seenGroups, IntConsumer each) {
    int number = GrantEntry.number(subject);
    switch (GrantEntry.kind(subject)) {
      case GrantEntry.PRINCIPAL -> each.accept(number);
      case GrantEntry.GROUP -> group(number, seenGroups, each);
      case GrantEntry.ACCOUNT -> {
        all(it.directory.staff.getOr(number, Directory.NONE), each);
        it.people.guests(it.directory, number, at, each);
      }
      case GrantEntry.PATTERN ->
          all(it.directory.patternPeople.getOr(number, Directory.NONE), each);
      default -> {
        if (number != mandala.core.model.Subject.Public.ANONYMOUS.ordinal()) {
          for (int p = 0; p < it.directory.profiles.size(); p++) {
            if (it.directory.profiles.get(p) != null) {
              each.accept(p);
            }
          }
        }
      }
    }
  }

  private void group(int top, BitSet seen, IntConsumer each) {
    if (seen.get(top) || it.directory.retired(top)) {
      return;
    }
    seen.set(top);
    IntList open = new IntList();
    open.add(top);
    for (int i = 0; i < open.size(); i++) {
      int g = open.get(i);
      all(it.directory.members.getOr(g, Directory.NONE), each);
      if (it.catalogue.groups().the(g).rule() != null) {
        int account = it.catalogue.accounts().require(it.catalogue.groups().the(g).account());
        it.people.guests(
            it.directory,
            account,
            at,
            p -> {
              if (it.directory.passes(g, it.directory.profiles.require(p).principal)) {
                each.accept(p);
              }
            });
      }
      for (int inner : it.directory.inner.getOr(g, Directory.NONE)) {
        if (!seen.get(inner) && !it.directory.retired(inner)) {
          seen.set(inner);
          open.add(inner);
        }
      }
    }
  }

  private static void all(int[] list, IntConsumer each) {
    for (int p : list) {
      each.accept(p);
    }
  }
}
