package mandala.core.change;

import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.AccessModel;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Guest;
import mandala.core.model.Key;
import mandala.core.model.Thing;
import mandala.core.model.check.Fault;
import mandala.core.model.check.ModelCheck;
import org.jspecify.annotations.Nullable;

/** Applies changes to a catalogue. */
public final class Changes {

  private Changes() {}

  /**
   * {@return the catalogue after some changes, in their order}
   *
   * @throws IllegalArgumentException if one adds what is there already, alters or removes what is
   *     not there as it says, or the model after them all has a fault; the message names it
   */
  public static Catalogue apply(Catalogue before, List<Change> changes) {
    Catalogue after = before;
    for (Change change : changes) {
      after = apply(after, change);
    }
    List<Fault> faults = faultsOf(after, changes);
    if (!faults.isEmpty()) {
      throw new IllegalArgumentException("The changes leave a faulty model: " + faults.getFirst());
    }
    return after;
  }

  private static Catalogue apply(Catalogue catalogue, Change change) {
    return switch (change) {
      case Change.Added(Thing thing) -> {
        if (thing.key() != null && find(catalogue, thing) != null) {
          throw new IllegalArgumentException("There is a " + name(thing) + " already; alter it");
        }
        yield catalogue.with(thing);
      }
      case Change.Altered(Thing old, Thing now) -> {
        requireAsIs(catalogue, old);
        yield old.key() == null ? catalogue.without(old).with(now) : catalogue.with(now);
      }
      case Change.Removed(Thing thing) -> {
        requireAsIs(catalogue, thing);
        yield catalogue.without(thing);
      }
    };
  }

  private static void requireAsIs(Catalogue catalogue, Thing thing) {
    if (!thing.equals(find(catalogue, thing))) {
      throw new IllegalArgumentException(
          "The " + name(thing) + " is not there as the change says; look at it again");
    }
  }

  private static String name(Thing thing) {
    Key key = thing.key();
    return thing.getClass().getSimpleName().toLowerCase(java.util.Locale.ROOT)
        + (key == null ? "" : " '" + key + "'");
  }

  private static @Nullable Thing find(Catalogue catalogue, Thing thing) {
    Key key = thing.key();
    if (key != null) {
      return catalogue.find(thing);
    }
    return switch (thing) {
      case Guest it -> {
        int p = catalogue.principals().number(it.principal());
        yield p >= 0 && catalogue.links().guests(p).contains(it) ? it : null;
      }
      case Activation it -> {
        int p = catalogue.principals().number(it.principal());
        yield p >= 0 && catalogue.links().activations(p).contains(it) ? it : null;
      }
      default -> throw new IllegalStateException("Impossible state: a keyless " + thing);
    };
  }

  /**
   * The faults of what changed. What only points at other things is checked alone, against all that
   * is there; where something goes or changes that others may point at, the whole model is.
   */
  private static List<Fault> faultsOf(Catalogue after, List<Change> changes) {
    AccessModel.Builder touched = AccessModel.builder();
    for (Change change : changes) {
      switch (change) {
        case Change.Added(Thing thing) -> {
          if (thing instanceof mandala.core.model.Role it && it.code() != null) {
            return ModelCheck.faultsOf(after.model());
          }
          touched.add(thing);
        }
        case Change.Altered(Thing old, Thing now) -> {
          if (othersMayMind(old, now)) {
            return ModelCheck.faultsOf(after.model());
          }
          touched.add(now);
        }
        case Change.Removed(Thing thing) -> {
          if (!isPointedAtByNothing(thing)) {
            return ModelCheck.faultsOf(after.model());
          }
        }
      }
    }
    Set<Thing> last = new LinkedHashSet<>();
    AccessModel all = touched.build();
    for (var kind : mandala.core.model.Kind.values()) {
      for (Thing thing : all.things(kind)) {
        if (thing.key() == null || thing.equals(after.find(thing))) {
          last.add(thing);
        }
      }
    }
    return ModelCheck.faultsOf(AccessModel.builder().addAll(last).build(), after);
  }

  /** Whether something that stays could become faulty by an alteration of another thing. */
  private static boolean othersMayMind(Thing old, Thing now) {
    Map<Class<?>, Boolean> never =
        Map.of(
            Exclusion.class, true,
            Expectation.class, true,
            Guest.class, true,
            Activation.class, true,
            Bridge.class, true,
            Delegation.class, true,
            mandala.core.model.PermissionSet.class, true,
            mandala.core.model.ResourceCollection.class, true);
    if (never.containsKey(old.getClass())) {
      return false;
    }
    return switch (old) {
      case mandala.core.model.Role it ->
          !java.util.Objects.equals(it.code(), ((mandala.core.model.Role) now).code());
      case Assignment it -> it.mode() != ((Assignment) now).mode();
      case mandala.core.model.Principal it -> {
        var that = (mandala.core.model.Principal) now;
        yield it.kind() != that.kind();
      }
      case mandala.core.model.Group it ->
          !it.account().equals(((mandala.core.model.Group) now).account());
      case mandala.core.model.Resource it ->
          !it.account().equals(((mandala.core.model.Resource) now).account());
      default -> true;
    };
  }

  private static boolean isPointedAtByNothing(Thing thing) {
    return switch (thing) {
      case Exclusion _, Expectation _, Guest _, Activation _, Bridge _, Delegation _ -> true;
      case Assignment it -> it.mode() == Assignment.Mode.STANDING;
      default -> false;
    };
  }
}
