package mandala.core.authority;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.NavigableSet;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.CancellationException;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.Resource;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.WindowEdges;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Difference;
import mandala.core.question.Impact;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;

/**
 * Whether a second person must approve a draft (section 11).
 *
 * <ol>
 *   <li>{@link Engine#switchedOn}: every activation that could be made is as if made: just-in-time
 *       assignments stand.
 *   <li>{@link #widens}: now and at every later instant, the author's own access before and after;
 *       {@link #widensFor} what it may do for each whom it may act for.
 *   <li>{@link #critical}: likewise, everybody's rights of risk critical.
 * </ol>
 */
public final class SecondApproval {

  private final Engine before;
  private @Nullable NavigableSet<Instant> known;

  /** Judges drafts over a model; what is made of the model alone is kept. Thread-safe. */
  public SecondApproval(Engine before) {
    this.before = before;
  }

  /** Why a second person must approve. */
  public sealed interface Reason {

    /** The author could do more after it, from this instant on. */
    record Widens(Instant at, long rights) implements Reason {}

    /** The author could do more for another, from this instant on. */
    record WidensFor(PrincipalKey actingFor, Instant at, long rights) implements Reason {}

    /** Somebody is allowed critical permissions that it was not allowed before. */
    record Critical(List<PermissionKey> permissions, Instant at) implements Reason {
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
   * @param watch asked whether to go on
   * @throws CancellationException if not
   */
  public Optional<Reason> manyPeople(
      Engine after, Draft draft, int atMost, Instant at, Impact.Watch watch) {
    NavigableMap<Instant, Integer> first = new TreeMap<>(); // how many differ from then on
    over(
        before,
        after,
        draft.inOrder(),
        at,
        null,
        watch,
        (_, from, _) -> {
          synchronized (first) {
            first.merge(from, 1, Integer::sum);
          }
          return false;
        });
    int people = 0;
    for (int more : first.values()) {
      people += more;
      if (people > atMost) {
        return Optional.of(new Reason.ManyPeople(people, atMost));
      }
    }
    return Optional.empty();
  }

  /** Visits an impact over time. */
  private static void over(
      Engine before,
      Engine after,
      List<Change> changes,
      Instant at,
      @Nullable List<PrincipalKey> people,
      Impact.Watch watch,
      Impact.Visitor visitor) {
    if (!before.impactOverTime(after, changes, at, true, people, watch, visitor)) {
      throw new CancellationException("Judging was broken off");
    }
  }

  /**
   * {@return why a second person must approve a draft}, none where nobody must
   *
   * @param after the model after the draft
   * @param session the author's
   */
  public List<Reason> reasons(Engine after, Draft draft, Session session) {
    return reasons(after, draft, session, Impact.Watch.TO_THE_END);
  }

  /**
   * {@return why a second person must approve a draft}, in the order of time; none where nobody
   * must
   *
   * @param after the model after the draft
   * @param session the author's
   * @param watch asked whether to go on
   * @throws CancellationException if not
   */
  public List<Reason> reasons(Engine after, Draft draft, Session session, Impact.Watch watch) {
    Draft consequential =
        new Draft(
            draft.changes().stream()
                .filter(change -> !(change.things().getFirst() instanceof Activation))
                .toList());
    return consequential.isEmpty() ? List.of() : consequences(after, consequential, session, watch);
  }

  private List<Reason> consequences(
      Engine after, Draft draft, Session session, Impact.Watch watch) {
    List<Change> changes = draft.inOrder().stream().map(SecondApproval::switchedOn).toList();
    Parted parted =
        Parted.of(changes.stream().filter(change -> !isVoid(change)).toList(), before.switchedOn());
    Engine first = parted.first();
    List<Change> effective = parted.rest();
    Engine second = effective.isEmpty() ? first : first.after(effective);
    List<Reason> reasons = new ArrayList<>();
    widens(first, second, effective, session, watch).ifPresent(reasons::add);
    Engine plain = Parted.of(draft.inOrder(), before).first();
    widensFor(plain, after, draft, session, reasons);
    critical(first, second, effective, session.at(), watch).ifPresent(reasons::add);
    reasons.sort(Comparator.comparing(SecondApproval::since)); // stable: kinds stay in this order
    return reasons;
  }

  private static Instant since(Reason reason) {
    return switch (reason) {
      case Reason.Widens it -> it.at();
      case Reason.WidensFor it -> it.at();
      case Reason.Critical it -> it.at();
      case Reason.ManyPeople _ -> Instant.MAX;
    };
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

  /**
   * {@return the first instant after now at which something begins or ends, before or after a
   * draft}: until then a judgement stays as it is
   */
  public Instant sameUntil(Draft draft, Instant now) {
    return edges(draft, now).stream().skip(1).findFirst().orElse(Instant.MAX);
  }

  /** Now, and every later instant at which something begins or ends, before or after. */
  private Set<Instant> edges(Draft draft, Instant now) {
    NavigableSet<Instant> edges = new TreeSet<>(edgesBefore().tailSet(now, false));
    edges.add(now);
    for (Change change : draft.changes()) {
      change.things().forEach(it -> WindowEdges.add(it, edges));
    }
    return edges.tailSet(now, true);
  }

  private synchronized NavigableSet<Instant> edgesBefore() {
    NavigableSet<Instant> made = known;
    if (made == null) {
      made = WindowEdges.of(before.catalogue());
      known = made;
    }
    return made;
  }

  private static Optional<Reason> widens(
      Engine first, Engine second, List<Change> changes, Session session, Impact.Watch watch) {
    List<Reason> found = new ArrayList<>();
    over(
        first,
        second,
        changes,
        session.at(),
        List.of(session.principal()),
        watch,
        (_, from, difference) -> {
          if (difference.gained() > 0) {
            found.add(new Reason.Widens(later(from, session.at()), difference.gained()));
          }
          return found.isEmpty();
        });
    return found.stream().findFirst();
  }

  /** Whole seconds count; now is as exact as it was asked. */
  private static Instant later(Instant from, Instant now) {
    return from.isBefore(now) ? now : from;
  }

  /** Whom the author may act for comes from delegations; switching on plays no part (section 7). */
  private void widensFor(
      Engine plain, Engine after, Draft draft, Session session, List<Reason> reasons) {
    Map<PrincipalKey, List<Window>> windows = new LinkedHashMap<>();
    for (Delegation it : after.catalogue().delegations().values()) {
      if (it.delegate().equals(session.principal())
          && plain.catalogue().principals().containsKey(it.principal())) {
        windows.computeIfAbsent(it.principal(), _ -> new ArrayList<>()).add(it.window());
      }
    }
    Set<Instant> edges = windows.isEmpty() ? Set.of() : edges(draft, session.at());
    windows.forEach((whom, times) -> {
      for (Instant at : edges) {
        boolean may = times.stream().anyMatch(it -> it.holdsAt(at));
        Session then = new Session(session.principal(), at, true, whom);
        long gained = may ? gained(plain, after, then) : 0;
        if (gained > 0) {
          reasons.add(new Reason.WidensFor(whom, at, gained));
          return;
        }
      }
    });
  }

  private static long gained(Engine first, Engine second, Session session) {
    if (!second.catalogue().principals().containsKey(session.principal())) {
      return 0;
    }
    return first.access(session).difference(second.access(session)).gained();
  }

  private static Optional<Reason> critical(
      Engine first, Engine second, List<Change> changes, Instant now, Impact.Watch watch) {
    NavigableMap<Instant, Set<Difference.Line>> gains = new TreeMap<>();
    over(
        first,
        second,
        changes,
        now,
        null,
        watch,
        (_, from, difference) -> {
          List<Difference.Line> critical =
              difference.lines().stream()
                  .filter(line -> line.gained() > 0)
                  .filter(line -> isCritical(second.catalogue(), line.permission()))
                  .map(line -> new Difference.Line(line.account(), line.permission(), 1, 0))
                  .toList();
          synchronized (gains) {
            if (!critical.isEmpty()) {
              gains.computeIfAbsent(from, _ -> new HashSet<>()).addAll(critical);
            }
            return gains.isEmpty() || from.isBefore(gains.firstKey());
          }
        });
    if (gains.isEmpty()) {
      return Optional.empty();
    }
    List<PermissionKey> permissions =
        gains.firstEntry().getValue().stream()
            .sorted(
                Comparator.comparing((Difference.Line line) -> line.account().value())
                    .thenComparing(line -> line.permission().value()))
            .map(Difference.Line::permission)
            .distinct()
            .toList();
    return Optional.of(new Reason.Critical(permissions, later(gains.firstKey(), now)));
  }

  private static boolean isCritical(Catalogue catalogue, PermissionKey key) {
    Permission permission = catalogue.permissions().get(key);
    return permission != null && permission.risk() == Permission.Risk.CRITICAL;
  }
}
