package mandala.core.authority;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.NavigableSet;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Difference;
import mandala.core.engine.Engine;
import mandala.core.engine.Impact;
import mandala.core.engine.Session;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Key;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import org.jspecify.annotations.Nullable;

/**
 * Whether a second person must approve a draft (section 11).
 *
 * <ol>
 *   <li>{@link Engine#switchedOn}: every activation that could be made is as if made: just-in-time
 *       assignments stand.
 *   <li>{@link #edges}: now, and every later instant at which a window of the model before or after
 *       begins or ends.
 *   <li>{@link #widens}: at each, the author's own access before and after, and what it may do for
 *       each whom it may act for.
 *   <li>{@link #critical}: at each, everybody's rights of risk critical.
 * </ol>
 */
public final class SecondPerson {

  private final Engine before;
  private @Nullable NavigableSet<Instant> known;

  /** Judges drafts over a model; what is made of the model alone is kept. Thread-safe. */
  public SecondPerson(Engine before) {
    this.before = before;
  }

  /** Why a second person must approve. */
  public sealed interface Reason {

    /** The author could do more after it, from this instant on. */
    record Widens(Instant at, long rights) implements Reason {}

    /** The author could do more for another, from this instant on. */
    record WidensFor(Key.Principal actingFor, Instant at, long rights) implements Reason {}

    /** Somebody is allowed critical permissions that it was not allowed before. */
    record Critical(List<Key.Permission> permissions, Instant at) implements Reason {
      /** Copies its permissions. */
      public Critical {
        permissions = List.copyOf(permissions);
      }
    }

    /**
     * More people gain or lose rights, now or later, than one person may decide alone.
     *
     * @param people how many were found until there were more than {@code atMost}
     */
    record ManyPeople(int people, int atMost) implements Reason {}
  }

  /**
   * {@return the reason that a policy adds to section 11}, none where the draft keeps to it. Like
   * widening, it is judged now and at every later edge of a window; somebody who gains or loses
   * something at several of them counts once.
   *
   * @param after the model after the draft
   * @param atMost how many people one person alone may give or take rights
   * @param at now
   */
  public Optional<Reason> manyPeople(Engine after, Draft draft, int atMost, Instant at) {
    Set<Key.Principal> people = new HashSet<>();
    for (Instant edge : edges(draft, at)) {
      before.impact(after, draft.inOrder(), edge, true, Impact.Watch.TO_THE_END).people().stream()
          .filter(Impact.Person::differs)
          .forEach(it -> people.add(it.principal()));
      if (people.size() > atMost) {
        return Optional.of(new Reason.ManyPeople(people.size(), atMost));
      }
    }
    return Optional.empty();
  }

  /**
   * {@return why a second person must approve a draft}, none where nobody must
   *
   * @param after the model after the draft
   * @param session the author's
   */
  public List<Reason> reasons(Engine after, Draft draft, Session session) {
    Draft consequential =
        new Draft(
            draft.changes().stream()
                .filter(change -> !(change.things().getFirst() instanceof Activation))
                .toList());
    return consequential.isEmpty() ? List.of() : consequences(after, consequential, session);
  }

  private List<Reason> consequences(Engine after, Draft draft, Session session) {
    List<Change> changes = draft.inOrder().stream().map(SecondPerson::switchedOn).toList();
    Parted parted =
        Parted.of(changes.stream().filter(change -> !isVoid(change)).toList(), before.switchedOn());
    Engine first = parted.first();
    List<Change> effective = parted.rest();
    Engine second = effective.isEmpty() ? first : first.after(effective);
    Engine plain = Parted.of(draft.inOrder(), before).first();
    List<Reason> reasons = new ArrayList<>();
    boolean widens = false;
    boolean critical = false;
    Set<Key.Principal> widensFor = new LinkedHashSet<>();
    for (Instant at : edges(draft, session.at())) {
      if (!widens) {
        widens = widens(first, second, session, at, reasons);
      }
      widensFor(plain, after, session, at, widensFor, reasons);
      if (!critical) {
        critical = critical(first, second, effective, at, reasons);
      }
    }
    return reasons;
  }

  /**
   * A draft in two parts. Places that it creates stand for their nearest ancestors: what somebody
   * may do there by what they have already is nothing new, so that places come first, and all else
   * is compared with the model that has them.
   *
   * @param first the model with the places, or as it is where they cannot come alone
   * @param rest what is left to change
   */
  private record Parted(Engine first, List<Change> rest) {

    static Parted of(List<Change> changes, Engine before) {
      List<Change> places = new ArrayList<>();
      List<Change> rest = new ArrayList<>();
      for (Change change : changes) {
        switch (change) {
          case Change.Added(Group it) -> {
            Group empty =
                new Group(
                    it.key(), it.about(), it.account(), it.retired(), List.of(), null, List.of());
            places.add(new Change.Added(empty));
            if (!empty.equals(it)) {
              rest.add(new Change.Altered(empty, it));
            }
          }
          case Change.Added(Thing it)
              when it instanceof Account || it instanceof Unit || it instanceof Resource ->
              places.add(change);
          case Change.Added _, Change.Altered _, Change.Removed _ -> rest.add(change);
        }
      }
      try {
        return places.isEmpty()
            ? new Parted(before, changes)
            : new Parted(before.after(places), rest);
      } catch (IllegalArgumentException _) {
        return new Parted(before, changes); // they need what else the draft creates
      }
    }
  }

  private static boolean isVoid(Change change) {
    return change instanceof Change.Altered(Thing was, Thing is) && was.equals(is);
  }

  private static Change switchedOn(Change change) {
    return switch (change) {
      case Change.Added(Thing thing) -> new Change.Added(switchedOn(thing));
      case Change.Altered(Thing was, Thing is) ->
          new Change.Altered(switchedOn(was), switchedOn(is));
      case Change.Removed(Thing thing) -> new Change.Removed(switchedOn(thing));
    };
  }

  private static Thing switchedOn(Thing thing) {
    return thing instanceof Assignment it ? it.standing() : thing;
  }

  /** Now, and every later instant at which something begins or ends, before or after. */
  private Set<Instant> edges(Draft draft, Instant now) {
    NavigableSet<Instant> edges = new TreeSet<>(edgesBefore().tailSet(now, false));
    edges.add(now);
    for (Change change : draft.changes()) {
      change.things().forEach(it -> add(it, edges));
    }
    return edges.tailSet(now, true);
  }

  private synchronized NavigableSet<Instant> edgesBefore() {
    NavigableSet<Instant> made = known;
    if (made == null) {
      NavigableSet<Instant> edges = new TreeSet<>();
      Catalogue catalogue = before.catalogue();
      catalogue.principals().values().forEach(it -> add(it, edges));
      catalogue.guests().forEach(it -> add(it, edges));
      catalogue.assignments().values().forEach(it -> add(it, edges));
      catalogue.bridges().values().forEach(it -> add(it, edges));
      catalogue.delegations().values().forEach(it -> add(it, edges));
      catalogue.activations().forEach(it -> add(it, edges));
      made = edges;
      known = edges;
    }
    return made;
  }

  private static void add(Thing thing, Set<Instant> edges) {
    Window window =
        switch (thing) {
          case Principal it -> it.window();
          case Guest it -> it.window();
          case Assignment it -> it.window();
          case Bridge it -> it.window();
          case Delegation it -> it.window();
          case Activation it -> it.window();
          default -> Window.ALWAYS;
        };
    if (window.from() != null) {
      edges.add(window.from());
    }
    if (window.until() != null) {
      edges.add(window.until());
    }
  }

  private static boolean widens(
      Engine first, Engine second, Session session, Instant at, List<Reason> reasons) {
    Session then = new Session(session.principal(), at, true, null);
    long gained = gained(first, second, then);
    if (gained > 0) {
      reasons.add(new Reason.Widens(at, gained));
    }
    return gained > 0;
  }

  /** Whom the author may act for comes from delegations; switching on plays no part (section 7). */
  private static void widensFor(
      Engine plain,
      Engine after,
      Session session,
      Instant at,
      Set<Key.Principal> told,
      List<Reason> reasons) {
    for (Delegation it : after.catalogue().delegations().values()) {
      if (it.delegate().equals(session.principal())
          && it.window().holdsAt(at)
          && !told.contains(it.principal())
          && plain.catalogue().principals().containsKey(it.principal())) {
        Session then = new Session(session.principal(), at, true, it.principal());
        long gained = gained(plain, after, then);
        if (gained > 0) {
          told.add(it.principal());
          reasons.add(new Reason.WidensFor(it.principal(), at, gained));
        }
      }
    }
  }

  private static long gained(Engine first, Engine second, Session session) {
    if (!second.catalogue().principals().containsKey(session.principal())) {
      return 0;
    }
    return first.access(session).difference(second.access(session)).gained();
  }

  private static boolean critical(
      Engine first, Engine second, List<Change> changes, Instant at, List<Reason> reasons) {
    Impact impact = first.impact(second, changes, at, true, Impact.Watch.TO_THE_END);
    Catalogue catalogue = second.catalogue();
    List<Key.Permission> critical =
        impact.total().lines().stream()
            .filter(line -> line.gained() > 0)
            .map(Difference.Line::permission)
            .filter(key -> isCritical(catalogue, key))
            .distinct()
            .toList();
    if (!critical.isEmpty()) {
      reasons.add(new Reason.Critical(critical, at));
    }
    return !critical.isEmpty();
  }

  private static boolean isCritical(Catalogue catalogue, Key.Permission key) {
    Permission permission = catalogue.permissions().get(key);
    return permission != null && permission.risk() == Permission.Risk.CRITICAL;
  }
}
