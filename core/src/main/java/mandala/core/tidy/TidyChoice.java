package mandala.core.tidy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.NavigableSet;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import org.jspecify.annotations.Nullable;

/** Takes some of the steps to a tidier model, with the earlier steps that these need. */
public final class TidyChoice {

  private TidyChoice() {}

  /** What a step touches, and what the things that it touches named before and after. */
  private record Traits(
      Set<Draft.Id> touched, Set<Key> before, Set<Key> after, Set<Key> added, Set<Key> removed) {

    static Traits of(TidyStep step) {
      Traits it =
          new Traits(
              new HashSet<>(), new HashSet<>(), new HashSet<>(), new HashSet<>(), new HashSet<>());
      for (Change change : step.changes()) {
        it.touched.add(Draft.Id.of(change));
        switch (change) {
          case Change.Added(Thing thing) -> {
            it.after.addAll(named(thing));
            add(thing.key(), it.added);
          }
          case Change.Altered(Thing before, Thing after) -> {
            it.before.addAll(named(before));
            it.after.addAll(named(after));
          }
          case Change.Removed(Thing thing) -> {
            it.before.addAll(named(thing));
            add(thing.key(), it.removed);
          }
        }
      }
      return it;
    }

    private static void add(@Nullable Key key, Set<Key> to) {
      if (key != null) {
        to.add(key);
      }
    }
  }

  /**
   * {@return for each step, the earlier ones that it needs at once}, ascending, by their places in
   * the list; these need others in turn
   *
   * @param steps in an order in which each fits the model that the one before left
   */
  public static List<List<Integer>> needs(List<TidyStep> steps) {
    Map<Draft.Id, List<Integer>> touching = new HashMap<>();
    Map<Key, List<Integer>> adding = new HashMap<>();
    Map<Key, List<Integer>> naming = new HashMap<>();
    List<List<Integer>> needs = new ArrayList<>();
    for (int i = 0; i < steps.size(); i++) {
      Traits it = Traits.of(steps.get(i));
      Set<Integer> needed = new TreeSet<>();
      it.touched.forEach(id -> needed.addAll(touching.getOrDefault(id, List.of())));
      it.after.forEach(key -> needed.addAll(adding.getOrDefault(key, List.of())));
      it.removed.forEach(key -> needed.addAll(naming.getOrDefault(key, List.of())));
      needs.add(List.copyOf(needed));
      note(it.touched, i, touching);
      note(it.added, i, adding);
      note(it.before, i, naming);
    }
    return needs;
  }

  private static <T> void note(Set<T> those, int step, Map<T, List<Integer>> by) {
    those.forEach(it -> by.computeIfAbsent(it, _ -> new ArrayList<>()).add(step));
  }

  /**
   * {@return the changes of some steps and of those that they need}
   *
   * @param chosen places in the list
   */
  public static List<Change> changes(List<TidyStep> steps, Collection<Integer> chosen) {
    List<List<Integer>> needs = needs(steps);
    NavigableSet<Integer> all = new TreeSet<>(chosen);
    // what a step needs comes before it
    for (Integer at = all.isEmpty() ? null : all.last(); at != null; at = all.lower(at)) {
      all.addAll(needs.get(at));
    }
    return all.stream().flatMap(it -> steps.get(it).changes().stream()).toList();
  }

  /**
   * {@return whether everybody may do the same in two models}, from an instant on, whatever is
   * activated
   */
  public static boolean meansTheSame(Engine before, Engine after, Instant at) {
    return SameMeaning.isKept(before, after, at);
  }

  /** What a thing names that a step may add or remove. */
  private static Set<Key> named(Thing thing) {
    Set<Key> keys = new HashSet<>();
    switch (thing) {
      case Assignment it -> {
        keys.add(it.gives().key());
        if (it.subject() instanceof Subject.OfGroup(GroupKey group)) {
          keys.add(group);
        }
      }
      case Bridge it -> {
        keys.add(it.gives().key());
        keys.add(it.group());
      }
      case Delegation it -> {
        if (it.limit() instanceof Delegation.Limit.Listed(List<Gives> gives)) {
          gives.forEach(each -> keys.add(each.key()));
        }
      }
      case Role it -> {
        keys.addAll(it.sets());
        keys.addAll(it.inherits());
        if (it.basedOn() != null) {
          keys.add(it.basedOn());
        }
      }
      case PermissionSet it -> keys.addAll(it.includes());
      case Group it ->
          it.members().stream()
              .filter(Group.Member.OfGroup.class::isInstance)
              .map(Group.Member.OfGroup.class::cast)
              .forEach(each -> keys.add(each.key()));
      default -> {
        // nothing else is changed
      }
    }
    return keys;
  }
}
