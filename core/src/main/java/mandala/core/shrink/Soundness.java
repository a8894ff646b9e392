package mandala.core.shrink;

import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.change.ModelDifference;
import mandala.core.compare.ImpactStudy;
import mandala.core.compliance.Finding;
import mandala.core.compliance.Findings;
import mandala.core.engine.Engine;
import mandala.core.evaluate.KeptRights;
import mandala.core.excess.ExcessStudy;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Expectation;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Thing;
import mandala.core.model.WindowEdges;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.ExpectationViolation;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;

/**
 * Judges whether a smaller model is sound (section 12): all that is allowed after was allowed
 * before, what is needed stays, what was used stays, no finding begins, and the last owner stays.
 *
 * <p>A model that came of a sound one by some changes is sound where these take nothing from
 * anybody that must stay, and give nothing: so only those whom the changes concern are asked about,
 * at each instant at which anything is another for them.
 */
final class Soundness {

  private final ShrinkOrder order;
  private final ExcessStudy study;
  private final Instant at;
  private final Engine before;
  private final Map<PrincipalKey, KeptRights> kept = new ConcurrentHashMap<>();
  private final Map<PrincipalKey, KeptRights> used = new ConcurrentHashMap<>();

  /** What broke rules before, by instant. */
  private final Map<Instant, Map<List<Object>, Long>> findings = new HashMap<>();

  /** Who could switch something on at some time. */
  private final Set<PrincipalKey> switching = new HashSet<>();

  /** The root accounts that have an owner. */
  private final Set<AccountKey> owned = new HashSet<>();

  private final boolean anyRules;

  /** Whether findings are looked for at every edge of a window each time. */
  private final boolean everyEdge;

  /**
   * Judges models that come of one.
   *
   * @param everyEdge whether findings are looked for at every edge each time, not in the end only
   */
  Soundness(Engine before, ExcessStudy study, ShrinkOrder order, boolean everyEdge) {
    this.everyEdge = everyEdge;
    this.before = before;
    this.order = order;
    this.study = study;
    at = order.window().at();
    Catalogue catalogue = before.catalogue();
    anyRules =
        catalogue.expectations().values().stream()
                .anyMatch(it -> it.form() != Expectation.Form.CANNOT)
            || catalogue.roles().values().stream()
                .anyMatch(it -> !it.prerequisites().isEmpty() || it.minHolders() != null);
    boolean anyJustInTime = false;
    for (Assignment it : catalogue.assignments().values()) {
      if (it.mode() == Assignment.Mode.JUST_IN_TIME) {
        anyJustInTime = true;
        if (it.subject() instanceof Subject.Public) {
          switching.addAll(catalogue.principals().keySet());
          switching.add(PrincipalKey.ANONYMOUS);
        } else {
          before.having(it.subject(), at).forEach(who -> switching.add(who.key()));
        }
      }
    }
    if (anyJustInTime) {
      catalogue.guests().forEach(it -> switching.add(it.principal()));
    }
    for (Account it : catalogue.accounts().values()) {
      if (it.parent() == null && !Authority.ownersOf(before, it.key(), at).isEmpty()) {
        owned.add(it.key());
      }
    }
  }

  /** {@return whether nothing is taken to be sound by how it was made} */
  boolean isCareful() {
    return everyEdge;
  }

  /** {@return whether a principal could switch something on at some time} */
  boolean mightSwitchOn(PrincipalKey who) {
    return switching.contains(who);
  }

  /**
   * How a model is judged.
   *
   * @param sound whether it is sound
   * @param people for whom it is not, as far as it is for some only
   */
  record Verdict(boolean sound, List<PrincipalKey> people) {
    Verdict {
      people =
          people.stream()
              .sorted(Comparator.comparing(PrincipalKey::value))
              .toList(); // found in no order
    }

    static final Verdict SOUND = new Verdict(true, List.of());
    static final Verdict UNSOUND = new Verdict(false, List.of());
  }

  /**
   * {@return how a model is judged that came of a sound one}
   *
   * @param changes what was changed
   * @param takesOnly whether nothing but what allows was taken away: then nobody can gain
   */
  Verdict judge(Engine was, Engine is, List<Change> changes, boolean takesOnly) {
    List<PrincipalKey> people = was.concerned(is, changes, at);
    Engine wasOn = switchedOn(was);
    Engine isOn = switchedOnAfter(wasOn, is, changes);
    List<PrincipalKey> failing =
        takesOnly
            ? losing(was, is, wasOn, isOn, changes, people)
            : gainingOrLosing(was, is, wasOn, isOn, changes, people);
    if (!failing.isEmpty()) {
      return new Verdict(false, failing);
    }
    boolean sound =
        holdsForOthers(was, is, Set.copyOf(people))
            && keepsOwners(is)
            && (everyEdge ? noFindingBegins(is) : noFindingBegins(is, Set.of(at)));
    return sound ? Verdict.SOUND : Verdict.UNSOUND;
  }

  /** {@return whether nobody gains and what must stay stays, from the first model to another} */
  boolean holdsFromTheFirst(Engine after) {
    List<Change> changes =
        ModelDifference.between(before.catalogue().model(), after.catalogue().model());
    return gainingOrLosing(
                before,
                after,
                switchedOn(before),
                switchedOn(after),
                changes,
                before.concerned(after, changes, at))
            .isEmpty()
        && noFindingBegins(after);
  }

  /** {@return whether a model that came of the first one in any way is sound} */
  boolean isSound(Engine after) {
    return holdsFromTheFirst(after)
        && holdsForOthers(
            before,
            after,
            Set.copyOf(
                before.concerned(
                    after,
                    ModelDifference.between(before.catalogue().model(), after.catalogue().model()),
                    at)))
        && keepsOwners(after);
  }

  /** {@return whether no finding begins at the instant, and the last owner of accounts stays} */
  boolean breaksNoRule(Engine after) {
    return keepsOwners(after) && noFindingBegins(after, Set.of(at));
  }

  private boolean keepsOwners(Engine after) {
    return owned.stream().noneMatch(it -> Authority.ownersOf(after, it, at).isEmpty());
  }

  private List<PrincipalKey> losing(
      Engine was,
      Engine is,
      Engine wasOn,
      Engine isOn,
      List<Change> changes,
      List<PrincipalKey> people) {
    Set<PrincipalKey> failing =
        new LinkedHashSet<>(was.losing(is, changes, at, true, people, this::needed));
    failing.addAll(was.losing(is, changes, at, false, enrolled(was, people), this::needed));
    failing.addAll(
        wasOn.losing(
            isOn,
            switchedOn(changes),
            at,
            true,
            people.stream().filter(switching::contains).toList(),
            it -> used.computeIfAbsent(it, study::used)));
    return List.copyOf(failing);
  }

  private KeptRights needed(PrincipalKey who) {
    return kept.computeIfAbsent(who, study::kept);
  }

  private List<PrincipalKey> gainingOrLosing(
      Engine was,
      Engine is,
      Engine wasOn,
      Engine isOn,
      List<Change> changes,
      List<PrincipalKey> people) {
    ImpactStudy.Keeping keeping =
        (who, _, lane, from, to, lost) -> needed(who).any(lane, from, to, lost);
    Set<PrincipalKey> failing =
        new LinkedHashSet<>(was.gainingOrLosing(is, changes, at, true, people, keeping));
    failing.addAll(was.gainingOrLosing(is, changes, at, false, enrolled(was, people), keeping));
    List<PrincipalKey> some = people.stream().filter(switching::contains).toList();
    List<Change> changesOn = switchedOn(changes);
    long now = at.getEpochSecond();
    failing.addAll(
        wasOn.gainingOrLosing(
            isOn,
            changesOn,
            at,
            true,
            some,
            (who, instant, lane, from, to, lost) ->
                instant == now
                    && used.computeIfAbsent(who, study::used).any(lane, from, to, lost)));
    failing.addAll(
        wasOn.gainingOrLosing(
            isOn, changesOn, at, false, enrolled(was, some), (_, _, _, _, _, _) -> false));
    return List.copyOf(failing);
  }

  // ---- with all that is just-in-time switched on ------------------------------------------------

  /** A model and the same with all switched on, as they were asked about last. */
  private record On(Engine engine, Engine on) {}

  private final Deque<On> known = new ArrayDeque<>();

  /** {@return the model in which all is switched on}; the same where nothing is just-in-time */
  Engine switchedOn(Engine engine) {
    if (switching.isEmpty()) {
      return engine;
    }
    return known.stream()
        .filter(it -> it.engine().equals(engine))
        .map(On::on)
        .findFirst()
        .orElseGet(() -> kept(engine, engine.switchedOn()));
  }

  private Engine switchedOnAfter(Engine wasOn, Engine is, List<Change> changes) {
    return switching.isEmpty() ? is : kept(is, wasOn.after(switchedOn(changes)));
  }

  private Engine kept(Engine engine, Engine on) {
    known.addFirst(new On(engine, on));
    if (known.size() > 4) {
      known.removeLast();
    }
    return on;
  }

  /** The same changes where all is switched on: nothing is activated there. */
  private static List<Change> switchedOn(List<Change> changes) {
    List<Change> on = new ArrayList<>();
    for (Change change : changes) {
      if (!(change.things().getFirst() instanceof Activation)) {
        on.add(
            switch (change) {
              case Change.Added(var it) -> new Change.Added(standing(it));
              case Change.Removed(var it) -> new Change.Removed(standing(it));
              case Change.Altered(var it, var less) ->
                  new Change.Altered(standing(it), standing(less));
            });
      }
    }
    return on;
  }

  private static Thing standing(Thing it) {
    return it instanceof Assignment assignment ? assignment.standing() : it;
  }

  private static List<PrincipalKey> enrolled(Engine engine, List<PrincipalKey> people) {
    Catalogue catalogue = engine.catalogue();
    return people.stream().filter(it -> isEnrolled(catalogue.principals().get(it))).toList();
  }

  private static boolean isEnrolled(@Nullable Principal who) {
    return who != null && who.mfa();
  }

  // ---- acting for others ------------------------------------------------------------------------

  private boolean holdsForOthers(Engine was, Engine is, Set<PrincipalKey> people) {
    for (ShrinkOrder.Acted it : order.acted()) {
      if (people.contains(it.whose()) || people.contains(it.actor())) {
        Session session = new Session(it.actor(), at, true, it.whose());
        if (allows(was, it, session) && !allows(is, it, session)) {
          return false;
        }
      }
    }
    Collection<Delegation> delegations =
        was.catalogue().delegations().values().stream()
            .filter(it -> people.contains(it.principal()) || people.contains(it.delegate()))
            .toList();
    if (delegations.isEmpty()) {
      return true;
    }
    Set<Instant> edges = edges(was);
    return delegations.parallelStream().allMatch(it -> gainsNothing(it, edges, was, is));
  }

  private static boolean allows(Engine engine, ShrinkOrder.Acted it, Session session) {
    return engine.decideAfresh(session.asks(it.permission(), it.resource())).allowed();
  }

  private Set<Instant> edges(Engine engine) {
    Set<Instant> edges = new TreeSet<>(Set.of(at));
    WindowEdges.of(engine.catalogue()).stream().filter(at::isBefore).forEach(edges::add);
    return edges;
  }

  private static boolean gainsNothing(Delegation it, Set<Instant> edges, Engine was, Engine is) {
    for (Instant edge : edges) {
      for (boolean factor : List.of(true, false)) {
        Session session = new Session(it.delegate(), edge, factor, it.principal());
        Access after = is.accessAfresh(session);
        if (after.rights() > 0 && was.accessAfresh(session).difference(after).gained() > 0) {
          return false;
        }
      }
    }
    return true;
  }

  // ---- rules ------------------------------------------------------------------------------------

  /** {@return whether no finding begins at any edge of a window} */
  boolean noFindingBegins(Engine after) {
    return noFindingBegins(after, edges(before));
  }

  private boolean noFindingBegins(Engine after, Set<Instant> edges) {
    for (Instant edge : anyRules ? edges : Set.<Instant>of()) {
      Map<List<Object>, Long> known =
          findings.computeIfAbsent(edge, instant -> broken(before, instant));
      for (Map.Entry<List<Object>, Long> is : broken(after, edge).entrySet()) {
        if (known.getOrDefault(is.getKey(), 0L) < is.getValue()) {
          return false;
        }
      }
    }
    return true;
  }

  /** What breaks a rule, and in how many places. */
  private static Map<List<Object>, Long> broken(Engine engine, Instant instant) {
    Map<List<Object>, Long> broken = new HashMap<>();
    for (Finding it : Findings.of(engine, instant)) {
      if (it instanceof Finding.ExpectationFails(var key, var breaches)) {
        Expectation expectation = engine.catalogue().expectations().get(key);
        breaches.forEach(breach -> add(broken, expectation, breach));
      } else {
        broken.put(it.about(), 1L);
      }
    }
    return broken;
  }

  private static void add(
      Map<List<Object>, Long> broken, @Nullable Expectation rule, ExpectationViolation it) {
    if (rule == null) {
      return;
    }
    if (it.principal() == null || it.permission() == null) {
      boolean few = rule.min() != null && it.many() < rule.min();
      broken.put(List.of(rule.key(), it.resource(), few), 1L);
    } else {
      broken.put(List.of(rule.key(), it.principal(), it.permission()), it.many());
    }
  }
}
