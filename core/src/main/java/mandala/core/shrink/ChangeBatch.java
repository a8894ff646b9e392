package mandala.core.shrink;

import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Thing;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import org.jspecify.annotations.Nullable;

/** Changes to one model that are gathered to be made together, at most one for each thing. */
final class ChangeBatch {

  private final Catalogue from;
  private final Draft.Builder draft = Draft.EMPTY.builder();

  /** What comes with the batch, by what it is. */
  private final Map<Draft.Id, Thing> added = new LinkedHashMap<>();

  private final Map<GroupKey, Group> groups = new LinkedHashMap<>();

  private final Set<Thing> removed = new HashSet<>();
  private final Set<AssignmentKey> keys = new HashSet<>();

  ChangeBatch(Catalogue from) {
    this.from = from;
  }

  Catalogue from() {
    return from;
  }

  /** Adds a thing, but for one that is there. */
  void ensure(Thing thing) {
    if (from.find(thing) == null && added.putIfAbsent(Draft.Id.of(thing), thing) == null) {
      draft.add(new Change.Added(thing));
    }
  }

  /** {@return whether an assignment has a key, or one that this batch will add} */
  boolean isTaken(AssignmentKey key) {
    return keys.contains(key) || from.assignments().containsKey(key);
  }

  /** Keeps a key from being taken again. */
  void take(AssignmentKey key) {
    keys.add(key);
  }

  void alter(Thing before, Thing after) {
    draft.add(new Change.Altered(before, after));
  }

  /** Removes a thing, once: a guest membership may be there twice. */
  void remove(Thing thing) {
    if (removed.add(thing)) {
      draft.add(new Change.Removed(thing));
    }
  }

  /** Takes a member out of a group that may have lost others in this batch. */
  void leave(GroupKey key, Group.Member member) {
    @Nullable Group last = groups.getOrDefault(key, from.groups().get(key));
    Group it = Objects.requireNonNull(last);
    Group less = Rewritten.without(it, member);
    if (!less.equals(it)) {
      draft.add(new Change.Altered(it, less));
      groups.put(key, less);
    }
  }

  List<Change> changes() {
    return draft.build().changes();
  }
}
