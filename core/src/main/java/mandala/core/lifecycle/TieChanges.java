package mandala.core.lifecycle;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.UnaryOperator;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;

/**
 * Changes of one act while they are collected: each builds on those before, so that a group may
 * lose a member and an owner in one act. Not thread-safe.
 */
final class TieChanges {

  private final Catalogue base;
  private final Draft.Builder draft = Draft.EMPTY.builder();

  /** What was changed so far, as it is now. */
  private final Map<Draft.Id, Thing> now = new HashMap<>();

  private final Set<Draft.Id> gone = new HashSet<>();

  TieChanges(Catalogue base) {
    this.base = base;
  }

  /** Alters something, as it is by now; does nothing where it was removed. */
  <T extends Thing> void alter(T thing, UnaryOperator<T> how) {
    Draft.Id id = Draft.Id.of(thing);
    if (gone.contains(id)) {
      return;
    }
    @SuppressWarnings("unchecked") // one thing keeps its kind
    T before = (T) now.getOrDefault(id, thing);
    T after = how.apply(before);
    if (after.equals(before)) {
      return;
    }
    if (thing.key() == null) {
      remove(thing);
      add(after);
      return;
    }
    draft.add(new Change.Altered(before, after));
    now.put(id, after);
  }

  /** Removes something, as it is by now; once. With an assignment go its activations. */
  void remove(Thing thing) {
    Draft.Id id = Draft.Id.of(thing);
    if (gone.add(id)) {
      draft.add(new Change.Removed(now.getOrDefault(id, thing)));
      if (thing instanceof Assignment assignment) {
        base.activations(assignment.key()).forEach(this::remove);
      }
    }
  }

  /** Adds something; of what has no key, only what is not there already. */
  void add(Thing thing) {
    if (thing.key() == null && isThere(thing)) {
      return;
    }
    draft.add(new Change.Added(thing));
    now.put(Draft.Id.of(thing), thing);
  }

  private boolean isThere(Thing thing) {
    Draft.Id id = Draft.Id.of(thing);
    return now.containsKey(id) || (base.find(thing) != null && !gone.contains(id));
  }

  /** {@return a key for a copy of an assignment}, which nothing else has */
  AssignmentKey keyFor(AssignmentKey of, PrincipalKey whose) {
    String stem = of.value() + "." + whose.value();
    String key = stem;
    for (int i = 2; isTaken(key); i++) {
      key = stem + "-" + i;
    }
    return new AssignmentKey(key);
  }

  private boolean isTaken(String key) {
    return base.assignments().containsKey(new AssignmentKey(key))
        || now.containsKey(new Draft.Id(Kind.ASSIGNMENTS, key, null));
  }

  /** {@return the changes}, in an order in which each finds what it needs */
  List<Change> all() {
    return draft.build().inOrder();
  }
}
