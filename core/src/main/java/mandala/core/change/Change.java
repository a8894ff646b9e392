package mandala.core.change;

import java.util.List;
import mandala.core.model.Thing;

/** One thing of the model comes, changes or goes. */
public sealed interface Change {

  /** A thing comes. */
  record Added(Thing thing) implements Change {}

  /**
   * A thing changes.
   *
   * @param before the thing as it is now, of the same kind and key
   */
  record Altered(Thing before, Thing after) implements Change {
    /** Refuses things that are not one thing before and after. */
    public Altered {
      if (before.getClass() != after.getClass()
          || !java.util.Objects.equals(before.key(), after.key())) {
        throw new IllegalArgumentException(
            "An altered thing keeps its kind and key; remove the one and add the other: "
                + before.key()
                + ", "
                + after.key());
      }
    }
  }

  /** A thing goes. */
  record Removed(Thing thing) implements Change {}

  /** {@return the thing before and the thing after}, as far as there is one */
  default List<Thing> things() {
    return switch (this) {
      case Added(Thing thing) -> List.of(thing);
      case Altered(Thing before, Thing after) -> List.of(before, after);
      case Removed(Thing thing) -> List.of(thing);
    };
  }

  /** {@return the change that takes this one back} */
  default Change inverse() {
    return switch (this) {
      case Added(Thing thing) -> new Removed(thing);
      case Altered(Thing before, Thing after) -> new Altered(after, before);
      case Removed(Thing thing) -> new Added(thing);
    };
  }
}
