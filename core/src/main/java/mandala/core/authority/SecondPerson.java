package mandala.core.authority;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Difference;
import mandala.core.engine.Engine;
import mandala.core.engine.Impact;
import mandala.core.engine.Session;
import mandala.core.model.AccessModel;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Thing;
import mandala.core.model.Window;

/**
 * Whether a second person must approve a draft (section 11).
 *
 * <ol>
 *   <li>{@link #switchedOn}: every activation that could be made is as if made: just-in-time
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
  private final Engine after;
  private final Draft draft;
  private final Session session;

  private SecondPerson(Engine before, Engine after, Draft draft, Session session) {
    this.before = before;
    this.after = after;
    this.draft = draft;
    this.session = session;
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
  }

  /**
   * {@return why a second person must approve a draft}, none where nobody must
   *
   * @param before the model before
   * @param after the model after the draft
   * @param session the author's
   */
  public static List<Reason> reasons(Engine before, Engine after, Draft draft, Session session) {
    Draft consequential =
        new Draft(
            draft.changes().stream()
                .filter(change -> !(change.things().getFirst() instanceof Activation))
                .toList());
    return consequential.isEmpty()
        ? List.of()
        : new SecondPerson(before, after, consequential, session).reasons();
  }

  private List<Reason> reasons() {
    List<Change> changes = draft.inOrder().stream().map(SecondPerson::switchedOn).toList();
    Engine first = switchedOn(before);
    List<Change> effective = changes.stream().filter(change -> !isVoid(change)).toList();
    Engine second = effective.isEmpty() ? first : first.after(effective);
    List<Reason> reasons = new ArrayList<>();
    boolean widens = false;
    boolean critical = false;
    Set<Key.Principal> widensFor = new LinkedHashSet<>();
    for (Instant at : edges()) {
      if (!widens) {
        widens = widens(first, second, at, reasons);
      }
      widensFor(at, widensFor, reasons);
      if (!critical) {
        critical = critical(first, second, effective, at, reasons);
      }
    }
    return reasons;
  }

  private static boolean isVoid(Change change) {
    return change instanceof Change.Altered(Thing was, Thing is) && was.equals(is);
  }

  /** The model with just-in-time assignments standing; denies of theirs stand anyway. */
  private static Engine switchedOn(Engine engine) {
    AccessModel model = engine.catalogue().model();
    if (model.assignments().stream().noneMatch(it -> it.mode() == Assignment.Mode.JUST_IN_TIME)) {
      return engine;
    }
    AccessModel.Builder on = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      if (kind != Kind.ACTIVATIONS) {
        model.things(kind).forEach(thing -> on.add(switchedOn(thing)));
      }
    }
    return Engine.of(on.build());
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
    return thing instanceof Assignment it
        ? new Assignment(
            it.key(),
            it.about(),
            it.subject(),
            it.gives(),
            it.effect(),
            it.scope(),
            it.viewScope(),
            it.window(),
            Assignment.Mode.STANDING,
            it.crossesSeals())
        : thing;
  }

  /** Now, and every later instant at which something begins or ends, before or after. */
  private Set<Instant> edges() {
    Set<Instant> edges = new TreeSet<>();
    edges.add(session.at());
    for (Engine engine : List.of(before, after)) {
      AccessModel model = engine.catalogue().model();
      model.principals().forEach(it -> add(it.window(), edges));
      model.guests().forEach(it -> add(it.window(), edges));
      model.assignments().forEach(it -> add(it.window(), edges));
      model.bridges().forEach(it -> add(it.window(), edges));
      model.delegations().forEach(it -> add(it.window(), edges));
    }
    return edges;
  }

  private void add(Window window, Set<Instant> edges) {
    if (window.from() != null && window.from().isAfter(session.at())) {
      edges.add(window.from());
    }
    if (window.until() != null && window.until().isAfter(session.at())) {
      edges.add(window.until());
    }
  }

  private boolean widens(Engine first, Engine second, Instant at, List<Reason> reasons) {
    Session then = new Session(session.principal(), at, true, null);
    long gained = gained(first, second, then);
    if (gained > 0) {
      reasons.add(new Reason.Widens(at, gained));
    }
    return gained > 0;
  }

  /** Whom the author may act for comes from delegations; switching on plays no part (section 7). */
  private void widensFor(Instant at, Set<Key.Principal> told, List<Reason> reasons) {
    for (Delegation it : after.catalogue().delegations().values()) {
      if (it.delegate().equals(session.principal())
          && it.window().holdsAt(at)
          && !told.contains(it.principal())
          && before.catalogue().principals().containsKey(it.principal())) {
        Session then = new Session(session.principal(), at, true, it.principal());
        long gained = gained(before, after, then);
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

  private boolean critical(
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
