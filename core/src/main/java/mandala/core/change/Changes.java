package mandala.core.change;

import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.check.Fault;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.Key;

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
    changes.forEach(Changes::requireListed);
    Catalogue after = applied(before, ordered(changes));
    List<Fault> faults = faultsOf(before, after, changes);
    if (!faults.isEmpty()) {
      throw new IllegalArgumentException("The changes leave a faulty model: " + faults.getFirst());
    }
    return after;
  }

  /** What is supplied is in every model and cannot be changed (section 11). */
  private static void requireListed(Change change) {
    Thing thing =
        switch (change) {
          case Change.Added(Thing it) -> it;
          case Change.Altered(Thing it, Thing _) -> it;
          case Change.Removed(Thing it) -> it;
        };
    Key key = thing.key();
    if (key != null && key.value().startsWith(Supplied.PREFIX)) {
      throw new IllegalArgumentException(
          "The " + name(thing) + " is supplied and locked; copy it and change the copy");
    }
  }

  /**
   * {@return changes in an order in which each finds what it needs}: what comes, by kind; what
   * alters; what goes, the other way round. Changes that follow on each other stay as they are.
   */
  static List<Change> ordered(List<Change> changes) {
    if (!isOneForEach(changes)) {
      return changes;
    }
    return sorted(changes);
  }

  /**
   * {@return changes that do the same, at most one for each thing with a key}; the same ones where
   * that is so already. Of what has no key equal ones count.
   *
   * @throws IllegalArgumentException if one cannot follow on another of the same thing
   */
  public static List<Change> joined(List<Change> changes) {
    if (isOneForEach(changes)) {
      return changes;
    }
    Draft.Builder keyed = Draft.EMPTY.builder();
    Map<Thing, Integer> keyless = new LinkedHashMap<>();
    for (Change change : changes) {
      if (change.things().getFirst().key() != null) {
        keyed.add(change);
      } else {
        switch (change) {
          case Change.Added(Thing it) -> keyless.merge(it, 1, Integer::sum);
          case Change.Removed(Thing it) -> keyless.merge(it, -1, Integer::sum);
          case Change.Altered(Thing was, Thing is) -> {
            keyless.merge(was, -1, Integer::sum);
            keyless.merge(is, 1, Integer::sum);
          }
        }
      }
    }
    List<Change> joined = new ArrayList<>(keyed.build().changes());
    keyless.forEach((thing, times) -> {
      Change change = times < 0 ? new Change.Removed(thing) : new Change.Added(thing);
      joined.addAll(Collections.nCopies(Math.abs(times), change));
    });
    return sorted(joined);
  }

  private static List<Change> sorted(List<Change> changes) {
    return changes.stream().sorted(Comparator.comparingInt(Changes::rank)).toList();
  }

  private static boolean isOneForEach(List<Change> changes) {
    return changes.stream().map(Draft.Id::of).distinct().count() == changes.size();
  }

  private static int rank(Change change) {
    int kind = Draft.Id.of(change).kind().ordinal();
    int kinds = Kind.values().length;
    return switch (change) {
      case Change.Added _ -> kind;
      case Change.Altered _ -> kinds + kind;
      case Change.Removed _ -> 3 * kinds - kind;
    };
  }

  /** Groups that come may hold each other: each comes empty first. */
  static Catalogue applied(Catalogue before, List<Change> ordered) {
    Catalogue after = before;
    List<Group> nesting = new ArrayList<>();
    for (Change change : ordered) {
      if (change instanceof Change.Added(Group group)
          && group.members().stream().anyMatch(Group.Member.OfGroup.class::isInstance)) {
        after = applied(after, new Change.Added(empty(group)));
        nesting.add(group);
      } else {
        after = applied(after, change);
      }
      if (!nesting.isEmpty() && !(change instanceof Change.Added)) {
        after = filled(after, nesting);
      }
    }
    return filled(after, nesting);
  }

  private static Catalogue filled(Catalogue empty, List<Group> groups) {
    Catalogue after = empty;
    for (Group group : groups) {
      after = after.with(group);
    }
    groups.clear();
    return after;
  }

  private static Group empty(Group it) {
    return new Group(
        it.key(), it.about(), it.account(), it.retired(), List.of(), it.rule(), it.owners());
  }

  private static Catalogue applied(Catalogue catalogue, Change change) {
    return switch (change) {
      case Change.Added(Thing thing) -> {
        requireNone(catalogue, thing);
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

  private static void requireNone(Catalogue catalogue, Thing thing) {
    if (catalogue.find(thing) != null) {
      throw new IllegalArgumentException("There is a " + name(thing) + " already; alter it");
    }
  }

  private static void requireAsIs(Catalogue catalogue, Thing thing) {
    if (!isThere(catalogue, thing)) {
      throw new IllegalArgumentException(
          "The " + name(thing) + " is not there as the change says; look at it again");
    }
  }

  static String name(Thing thing) {
    Key key = thing.key();
    return Kind.of(thing).word() + (key == null ? "" : " '" + key + "'");
  }

  /** {@return whether a catalogue has a thing exactly so} */
  static boolean isThere(Catalogue catalogue, Thing thing) {
    return switch (thing) {
      case Guest it -> catalogue.find(Kind.GUESTS, it.principal().value()).contains(it);
      case Activation it -> catalogue.find(Kind.ACTIVATIONS, it.principal().value()).contains(it);
      default -> thing.equals(catalogue.find(thing));
    };
  }

  /**
   * The faults of what changed. What only points at other things is checked alone, against all that
   * is there, and of assignments their activations are; where something else goes or changes that
   * others may point at, the whole model is.
   */
  private static List<Fault> faultsOf(Catalogue before, Catalogue after, List<Change> changes) {
    AccessModel.Builder touched = AccessModel.builder();
    for (Change change : changes) {
      switch (change) {
        case Change.Added(Thing thing) -> {
          if (thing instanceof Role it && it.code() != null) {
            return ModelCheck.faultsOf(after.model());
          }
          touched.add(thing);
        }
        case Change.Altered(Thing old, Thing now) -> {
          if (othersMayMind(old, now)) {
            return ModelCheck.faultsOf(after.model());
          }
          touched.add(now);
          addActivations(old, before, after, touched);
        }
        case Change.Removed(Thing thing) -> {
          if (!isPointedAtByNothing(thing)) {
            return ModelCheck.faultsOf(after.model());
          }
          addActivations(thing, before, after, touched);
        }
      }
    }
    Set<Thing> last = new LinkedHashSet<>();
    AccessModel all = touched.build();
    for (Kind kind : Kind.values()) {
      for (Thing thing : all.things(kind)) {
        if (thing.key() == null || thing.equals(after.find(thing))) {
          last.add(thing);
        }
      }
    }
    return ModelCheck.faultsOf(AccessModel.builder().addAll(last).build(), after);
  }

  /**
   * Only activations point at assignments, just-in-time ones; those that come are touched anyway.
   */
  private static void addActivations(
      Thing changed, Catalogue before, Catalogue after, AccessModel.Builder touched) {
    if (changed instanceof Assignment it && it.mode() == Assignment.Mode.JUST_IN_TIME) {
      before.activations(it.key()).stream()
          .filter(each -> isThere(after, each))
          .forEach(touched::add);
    }
  }

  /** Whether something that stays could become faulty by an alteration of another thing. */
  private static boolean othersMayMind(Thing old, Thing now) {
    return switch (old) {
      case Exclusion _, Expectation _, Guest _, Activation _, Bridge _, Delegation _ -> false;
      case Assignment _ -> false; // its activations are checked with it
      case PermissionSet _, ResourceCollection _ -> false;
      case Role it -> !Objects.equals(it.code(), ((Role) now).code());
      case Principal it -> it.kind() != ((Principal) now).kind();
      case Group it -> !it.account().equals(((Group) now).account());
      case Resource it -> !it.account().equals(((Resource) now).account());
      case Account _, Unit _, Pattern _, Permission _, ResourceType _ -> true;
    };
  }

  private static boolean isPointedAtByNothing(Thing thing) {
    return switch (thing) {
      case Exclusion _, Expectation _, Guest _, Activation _, Bridge _, Delegation _ -> true;
      case Assignment _ -> true; // its activations are checked with it
      default -> false;
    };
  }
}
