package mandala.core;

import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;

/**
 * Random changes of a model, always the same for a seed: something goes, comes back, or takes over
 * some field from another of its kind. Many leave a faulty model; whoever applies them finds out.
 */
public final class RandomChanges {

  private final Random random;
  private final List<Thing> gone = new ArrayList<>();

  /** Changes that follow from a seed. */
  public RandomChanges(long seed) {
    random = new Random(seed);
  }

  /** {@return the next change to a model} */
  public Change next(AccessModel model) {
    if (!gone.isEmpty() && random.nextInt(5) == 0) {
      return new Change.Added(gone.remove(random.nextInt(gone.size())));
    }
    List<? extends Thing> things = List.of();
    while (things.isEmpty()) {
      things = model.things(kind());
    }
    Thing thing = things.get(random.nextInt(things.size()));
    if (random.nextInt(4) == 0) {
      gone.add(thing);
      return new Change.Removed(thing);
    }
    Thing other = things.get(random.nextInt(things.size()));
    return new Change.Altered(thing, altered(thing, other));
  }

  /** {@return a principal who is suspended and else the same} */
  public static Principal suspended(Principal it) {
    return Rewritten.status(it, Principal.Status.SUSPENDED);
  }

  /** What changes often in life comes often here. */
  private Kind kind() {
    List<Kind> often =
        List.of(
            Kind.ASSIGNMENTS,
            Kind.PRINCIPALS,
            Kind.GROUPS,
            Kind.RESOURCES,
            Kind.RESOURCES,
            Kind.ROLES,
            Kind.PERMISSION_SETS,
            Kind.COLLECTIONS,
            Kind.GUESTS);
    return random.nextInt(3) == 0
        ? Kind.values()[random.nextInt(Kind.values().length)]
        : often.get(random.nextInt(often.size()));
  }

  /** A thing with one field of another's, or a flag turned. */
  private Thing altered(Thing thing, Thing other) {
    RecordComponent[] components = thing.getClass().getRecordComponents();
    try {
      Object[] values = new Object[components.length];
      for (int i = 0; i < values.length; i++) {
        values[i] = components[i].getAccessor().invoke(thing);
      }
      int which = (thing.key() == null ? 0 : 1) + random.nextInt(components.length - 1);
      values[which] =
          values[which] instanceof Boolean flag
              ? Boolean.valueOf(!flag)
              : components[which].getAccessor().invoke(other);
      Class<?>[] types =
          Arrays.stream(components).map(RecordComponent::getType).toArray(Class<?>[]::new);
      return (Thing) thing.getClass().getDeclaredConstructor(types).newInstance(values);
    } catch (ReflectiveOperationException e) {
      throw new IllegalStateException("Impossible state: a record cannot be made of its parts", e);
    }
  }
}
