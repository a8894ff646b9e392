package mandala.core.compiled;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Changes;
import mandala.core.compiled.directory.DirectoryEdit;
import mandala.core.compiled.grants.ClauseCompiler;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.compiled.rights.EffectiveRightsReader;
import mandala.core.compiled.space.ResourceChangeLog;
import mandala.core.compiled.space.ResourceSpaceEdit;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Term;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/**
 * Makes the next snapshot of some changes, sharing what they do not touch.
 *
 * <ol>
 *   <li>{@link #people}: principals, groups and guests ({@link DirectoryEdit}).
 *   <li>{@link #places}: resources that come, go, move or change ({@link ResourceSpaceEdit}).
 *   <li>{@link #given}: what roles and sets come to.
 *   <li>{@link #grounds}: clauses that depend on places or collections that changed.
 *   <li>{@link #lines}: assignments and bridges that changed or whose positions did.
 * </ol>
 *
 * <p>Where accounts, units, patterns, types or permissions change, where a gap is too small, or
 * where a role begins or ceases to deny, all is compiled anew: {@link #shared} is then null. Cost:
 * what is touched, and for changes of places copies of the arrays by position.
 */
public final class SnapshotEdit {

  private final Snapshot before;
  private final Snapshot it;
  private final Touched touched;

  private SnapshotEdit(Snapshot before, Catalogue after, Touched touched) {
    this.before = before;
    this.it = new Snapshot(before, after);
    this.touched = touched;
  }

  /**
   * {@return the next snapshot}
   *
   * @throws IllegalArgumentException as {@link Changes#apply} does
   */
  public static Snapshot after(Snapshot before, List<Change> changes) {
    List<Change> each = Changes.joined(changes); // what comes and goes meanwhile has no number
    Catalogue after = Changes.apply(before.catalogue, each);
    Touched touched = Touched.by(each);
    Snapshot shared =
        touched.needsAll(before.catalogue, after)
            ? null
            : new SnapshotEdit(before, after, touched).shared();
    return shared == null ? SnapshotBuild.of(new Catalogue(after.model())) : shared;
  }

  private @Nullable Snapshot shared() {
    people();
    BitSet changed = places();
    if (changed == null || !given()) {
      return null;
    }
    Set<Integer> refs = new LinkedHashSet<>();
    GrantTableEdit lines = new GrantTableEdit(before.catalogue, it);
    grounds(changed, refs);
    lines(lines, refs);
    for (PrincipalKey key : touched.actedFor) {
      int p = it.catalogue.principals().number(key);
      if (p >= 0) {
        it.covers = it.covers.with(p, lines.reader().covers(p));
      }
    }
    return it;
  }

  private void people() {
    if (touched.principals.isEmpty() && touched.groups.isEmpty() && touched.guests.isEmpty()) {
      return;
    }
    new DirectoryEdit(before.directory, it.directory).run(touched.principals, touched.groups);
    Set<PrincipalKey> all = new LinkedHashSet<>(touched.principals);
    all.addAll(touched.guests);
    for (PrincipalKey key : all) {
      int p = before.catalogue.principals().number(key);
      p = p >= 0 ? p : it.catalogue.principals().require(key);
      it.people = it.people.with(p, it.directory);
    }
  }

  private @Nullable BitSet places() {
    boolean groupsComeOrGo =
        touched.groups.stream()
            .anyMatch(key ->
                before.catalogue.groups().containsKey(key)
                    != it.catalogue.groups().containsKey(key));
    if (touched.resources.isEmpty() && !groupsComeOrGo) {
      return new BitSet();
    }
    ResourceSpaceEdit edit =
        new ResourceSpaceEdit(before.places, it.places, it.directory, it.rights);
    BitSet changed = edit.run(touched.resources, touched.groups);
    if (changed != null && !changed.isEmpty()) {
      List<ResourceChangeLog.Entry> entries = new ArrayList<>();
      for (int from = changed.nextSetBit(0); from >= 0; ) {
        int to = changed.nextClearBit(from);
        entries.add(new ResourceChangeLog.Entry(it.number, from, to));
        from = changed.nextSetBit(to);
      }
      it.placeLog = it.placeLog.with(entries);
    }
    return edit.onlySeals() ? new BitSet() : changed;
  }

  /**
   * Reads anew what depends on touched roles and sets; false where one begins or ceases to deny.
   */
  private boolean given() {
    if (touched.roles.isEmpty() && touched.sets.isEmpty()) {
      return true;
    }
    EffectiveRightsReader reader = new EffectiveRightsReader(it.catalogue, it.rights);
    for (Gives gives : dependent()) {
      int number = it.grantIds.knownGiven(new EffectiveRightsReader.Name(gives, false));
      EffectiveRights old = number < 0 ? null : it.given.get(number);
      if (old != null) {
        EffectiveRights now = reader.read(new EffectiveRightsReader.Name(gives, false));
        if (now.denies != old.denies) {
          return false;
        }
        if (!now.equalsRows(old)) {
          it.given = it.given.with(number, now);
          it.rows = it.rows.with(it.rights, number, old, now);
        }
      }
    }
    return true;
  }

  /** Touched roles and sets, and what includes or inherits them, before or after. */
  private Set<Gives> dependent() {
    Set<PermissionSetKey> sets = new HashSet<>(touched.sets);
    Set<RoleKey> roles = new HashSet<>(touched.roles);
    Deque<PermissionSetKey> openSets = new ArrayDeque<>(sets);
    while (!openSets.isEmpty()) {
      PermissionSetKey inner = openSets.remove();
      for (PermissionSet set : it.catalogue.sets().values()) {
        if (set.includes().contains(inner) && sets.add(set.key())) {
          openSets.add(set.key());
        }
      }
    }
    if (!sets.isEmpty()) {
      for (Role role : it.catalogue.roles().values()) {
        if (role.sets().stream().anyMatch(sets::contains)) {
          roles.add(role.key());
        }
      }
    }
    Deque<RoleKey> openRoles = new ArrayDeque<>(roles);
    while (!openRoles.isEmpty()) {
      RoleKey junior = openRoles.remove();
      for (Role role : it.catalogue.roles().values()) {
        if (!role.inherits().isEmpty()
            && role.inherits().contains(junior)
            && roles.add(role.key())) {
          openRoles.add(role.key());
        }
      }
    }
    Set<Gives> dependent = new LinkedHashSet<>();
    sets.forEach(key -> dependent.add(new Gives.OfSet(key)));
    roles.forEach(key -> dependent.add(new Gives.OfRole(key)));
    return dependent;
  }

  /**
   * Reads compiled clauses anew that may be others now, and gathers whose grant entries have them.
   */
  private void grounds(BitSet changed, Set<Integer> refs) {
    if (changed.isEmpty() && touched.collections.isEmpty()) {
      return;
    }
    ClauseCompiler reader = new ClauseCompiler(it.catalogue, it.places, it.rights);
    ClauseCompiler past = new ClauseCompiler(before.catalogue, before.places, before.rights);
    for (int number = 0; number < it.grounds.size(); number++) {
      CompiledClause ground = it.grounds.get(number);
      if (ground == null || !mayDiffer(ground.clause(), changed)) {
        continue;
      }
      if (namesWhatIsGone(ground.clause())) {
        it.grounds = it.grounds.with(number, null);
      } else {
        CompiledClause now = reader.read(ground.clause(), ground.within());
        it.grounds = it.grounds.with(number, now);
        ClauseCompiler.Anchor from = past.anchor(ground.clause(), ground.within());
        ClauseCompiler.Anchor to = reader.anchor(ground.clause(), ground.within());
        if (!from.equals(to)) {
          it.anchors = it.anchors.without(from, number).with(to, number);
        }
      }
      GrantTableEdit.refs(before.allowOf.get(number), refs);
      GrantTableEdit.refs(before.denyOf.get(number), refs);
    }
    for (int at = changed.nextSetBit(0); at >= 0; at = changed.nextSetBit(at + 1)) {
      if (before.places.isThere(at) && before.places.node[at] != it.places.node[at]) {
        GrantTableEdit.refs(before.allowAt.get(at), refs);
        GrantTableEdit.refs(before.denyAt.get(at), refs);
      }
    }
  }

  private boolean mayDiffer(Clause clause, BitSet changed) {
    for (Term term : clause.terms()) {
      boolean may =
          switch (term) {
            case Term.Labelled _, Term.InUnit _ -> !changed.isEmpty();
            case Term.OwnedBy(Term.Owner owner) -> owner == Term.Owner.NONE && !changed.isEmpty();
            case Term.InCollection(CollectionKey key) ->
                !changed.isEmpty() || touched.collections.contains(key);
            case Term.Tree(ResourceKey key) -> hasMoved(key);
            case Term.Only(ResourceKey key) -> hasMoved(key);
            case Term.Everything _,
                Term.InAccount _,
                Term.OwnAccount _,
                Term.OwnUnit _,
                Term.OfType _ ->
                false;
          };
      if (may) {
        return true;
      }
    }
    return false;
  }

  private boolean hasMoved(ResourceKey key) {
    return before.places.find(key) != it.places.find(key);
  }

  /** Whether a clause names something that is no more. */
  private boolean namesWhatIsGone(Clause clause) {
    return !clause.terms().stream().allMatch(it.catalogue::knows);
  }

  private void lines(GrantTableEdit lines, Set<Integer> refs) {
    Set<Integer> rest = new LinkedHashSet<>(refs);
    for (AssignmentKey key : touched.assignments) {
      lines.assignment(key);
      rest.remove(before.catalogue.assignments().number(key));
    }
    for (BridgeKey key : touched.bridges) {
      lines.bridge(key);
      rest.remove(~before.catalogue.bridges().number(key));
    }
    lines.reread(rest);
    for (GroupKey key : touched.groups) {
      Group was = before.catalogue.groups().get(key);
      if (was != null && !it.catalogue.groups().containsKey(key)) {
        int g = before.catalogue.groups().require(key);
        if (it.lines(false, GrantEntry.subject(GrantEntry.GROUP, g)) != null) {
          throw new IllegalStateException("Impossible state: a group went and left assignments");
        }
      }
    }
  }
}
