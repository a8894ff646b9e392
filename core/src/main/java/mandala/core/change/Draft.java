package mandala.core.change;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.Key;
import org.jspecify.annotations.Nullable;

/**
 * Changes that are to be made together: at most one for each thing, so that later edits of a thing
 * join earlier ones and opposite edits cancel. Immutable.
 *
 * @param changes in the order in which their things were first touched
 */
public record Draft(List<Change> changes) {

  /** Nothing is to change. */
  public static final Draft EMPTY = new Draft(List.of());

  /**
   * Copies its changes.
   *
   * @throws IllegalArgumentException if two are about one thing
   */
  public Draft {
    changes = List.copyOf(changes);
    long distinct = changes.stream().map(Id::of).distinct().count();
    if (distinct < changes.size()) {
      throw new IllegalArgumentException(
          "A draft has one change for each thing; put more in with 'with'");
    }
  }

  /**
   * Which thing a change is about.
   *
   * @param key its key; null for guest memberships and activations, which are themselves
   * @param itself the thing, where it has no key
   */
  public record Id(Kind kind, @Nullable String key, @Nullable Thing itself) {

    /** {@return which thing it is} */
    public static Id of(Thing thing) {
      Key key = thing.key();
      return new Id(Kind.of(thing), key == null ? null : key.value(), key == null ? thing : null);
    }

    /** {@return which thing a change is about} */
    public static Id of(Change change) {
      return of(change.things().getFirst());
    }
  }

  /** {@return a draft of changes, made one after the other} */
  public static Draft of(Collection<Change> changes) {
    Map<Id, Change> all = new LinkedHashMap<>();
    changes.forEach(change -> put(all, change));
    return new Draft(List.copyOf(all.values()));
  }

  /**
   * {@return a draft with one more change}, joined with what the draft does to the same thing
   *
   * @throws IllegalArgumentException if it cannot follow on that: a thing that the draft adds is
   *     added again, or one that it removes is altered
   */
  public Draft with(Change change) {
    Builder builder = builder();
    builder.add(change);
    return builder.build();
  }

  private Map<Id, Change> byThing() {
    return builder().all;
  }

  /** {@return a builder that begins with the changes of this draft} */
  public Builder builder() {
    return new Builder(changes);
  }

  /** Joins many changes with a draft, each as {@link #with} does. Not thread-safe. */
  public static final class Builder {
    private final Map<Id, Change> all = new LinkedHashMap<>();

    private Builder(List<Change> changes) {
      changes.forEach(change -> all.put(Id.of(change), change));
    }

    /**
     * Joins one more change.
     *
     * @throws IllegalArgumentException as {@link #with}; the builder stays as it was
     */
    public void add(Change change) {
      put(all, change);
    }

    /** {@return the draft of all that was joined} */
    public Draft build() {
      return new Draft(List.copyOf(all.values()));
    }
  }

  private static void put(Map<Id, Change> all, Change change) {
    if (change instanceof Change.Altered(Thing before, Thing after) && before.key() == null) {
      put(all, new Change.Removed(before)); // what has no key is another thing after it
      put(all, new Change.Added(after));
      return;
    }
    Id id = Id.of(change);
    Change first = all.get(id);
    Change joined = first == null ? settled(change) : joined(first, change);
    if (joined == null) {
      all.remove(id);
    } else {
      all.put(id, joined);
    }
  }

  private static @Nullable Change settled(Change change) {
    return change instanceof Change.Altered(Thing before, Thing after) && before.equals(after)
        ? null
        : change;
  }

  private static @Nullable Change joined(Change first, Change second) {
    return switch (first) {
      case Change.Added _ ->
          switch (second) {
            case Change.Added(Thing thing) -> throw unfit(thing, "is added by this draft already");
            case Change.Altered(var _, Thing after) -> new Change.Added(after);
            case Change.Removed _ -> null;
          };
      case Change.Altered(Thing before, var _) ->
          switch (second) {
            case Change.Added(Thing thing) -> throw unfit(thing, "is there already");
            case Change.Altered(var _, Thing after) -> settled(new Change.Altered(before, after));
            case Change.Removed _ -> new Change.Removed(before);
          };
      case Change.Removed(Thing before) ->
          switch (second) {
            case Change.Added(Thing after) -> settled(new Change.Altered(before, after));
            case Change.Altered(Thing thing, var _) ->
                throw unfit(thing, "is removed by this draft");
            case Change.Removed(Thing thing) -> throw unfit(thing, "is removed by this draft");
          };
    };
  }

  private static IllegalArgumentException unfit(Thing thing, String why) {
    return new IllegalArgumentException("The " + Changes.name(thing) + " " + why);
  }

  /** {@return the draft that takes this one back} */
  public Draft inverse() {
    return new Draft(changes.reversed().stream().map(Change::inverse).toList());
  }

  /** {@return whether nothing is to change} */
  public boolean isEmpty() {
    return changes.isEmpty();
  }

  /**
   * {@return the changes in an order in which each finds what it needs}: what comes, by kind; what
   * alters; what goes, the other way round
   */
  public List<Change> inOrder() {
    return Changes.ordered(changes);
  }

  /**
   * {@return a catalogue after this draft, faulty or not}: for looking at what is wrong with it
   *
   * @throws IllegalArgumentException if the draft does not fit the catalogue
   */
  public Catalogue appliedUnchecked(Catalogue before) {
    return Changes.applied(before, inOrder());
  }

  /** {@return whether both do the same, in whatever order} */
  public boolean sameAs(Draft other) {
    return Objects.equals(byThing(), other.byThing());
  }
}
