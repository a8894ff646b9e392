package mandala.core.shrink;

import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
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
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Expectation;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
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
    for (Assignment it : catalogue.assignments().values()) {
      if (it.mode() == Assignment.Mode.JUST_IN_TIME) {
        if (it.subject() instanceof Subject.Public) {
          switching.addAll(catalogue.principals().keySet());
          switching.add(PrincipalKey.ANONYMOUS);
        } else {
          before.having(it.subject(), at).forEach(who -> switching.add(who.key()));
        }
      }
    }
    if (!switching.isEmpty()) {
      catalogue.guests().forEach(it -> switching.add(it.principal()));
    }
    for (Account it : catalogue.accounts().values()) {
      if (it.parent() == null && !Authority.ownersOf(before, it.key(), at).isEmpty()) {
        owned.add(it.key());
      }
    }
  }

  /** {@return whether a principal could switch something on at some time} */
  boolean mightSwitchOn(PrincipalKey who) {
    return switching.contains(who);
  }

  /**
   * {@return whether a model is sound that came of a sound one}
   *
   * @param changes what was changed
   * @param takesOnly whether nothing but what allows was taken away: then nobody can gain
   */
  boolean holds(Engine was, Engine is, List<Change> changes, boolean takesOnly) {
    List<PrincipalKey> people = was.concerned(is, changes, at);
    boolean stays =
        takesOnly
            ? stays(was, is, changes, people)
            : staysWithin(was, is, changes, people) && staysWithinSwitchedOn(was, is, people);
    return stays
        && holdsForOthers(was, is, Set.copyOf(people))
        && owned.stream().noneMatch(it -> Authority.ownersOf(is, it, at).isEmpty())
        && (everyEdge ? noFindingBegins(is) : noFindingBegins(is, Set.of(at)));
  }

  private boolean stays(Engine was, Engine is, List<Change> changes, List<PrincipalKey> people) {
    Catalogue catalogue = was.catalogue();
    List<PrincipalKey> enrolled =
        people.stream().filter(it -> isEnrolled(catalogue.principals().get(it))).toList();
    List<PrincipalKey> some = people.stream().filter(switching::contains).toList();
    Function<PrincipalKey, KeptRights> needed = it -> kept.computeIfAbsent(it, study::kept);
    return was.keeps(is, changes, at, true, people, needed)
        && was.keeps(is, changes, at, false, enrolled, needed)
        && (some.isEmpty()
            || was.switchedOn()
                .keeps(
                    is.switchedOn(),
                    changes,
                    at,
                    true,
                    some,
                    it -> used.computeIfAbsent(it, study::used)));
  }

  private boolean staysWithin(
      Engine was, Engine is, List<Change> changes, List<PrincipalKey> people) {
    ImpactStudy.Keeping keeping =
        (who, _, lane, from, to, lost) ->
            kept.computeIfAbsent(who, study::kept).any(lane, from, to, lost);
    Catalogue catalogue = was.catalogue();
    List<PrincipalKey> enrolled =
        people.stream().filter(it -> isEnrolled(catalogue.principals().get(it))).toList();
    return was.onlyLoses(is, changes, at, true, people, keeping)
        && was.onlyLoses(is, changes, at, false, enrolled, keeping);
  }

  private static boolean isEnrolled(@Nullable Principal who) {
    return who != null && who.mfa();
  }

  private boolean staysWithinSwitchedOn(Engine was, Engine is, List<PrincipalKey> people) {
    List<PrincipalKey> some = people.stream().filter(switching::contains).toList();
    if (some.isEmpty()) {
      return true;
    }
    Engine wasOn = was.switchedOn();
    Engine isOn = is.switchedOn();
    List<Change> changes =
        ModelDifference.between(wasOn.catalogue().model(), isOn.catalogue().model());
    long now = at.getEpochSecond();
    return wasOn.onlyLoses(
            isOn,
            changes,
            at,
            true,
            some,
            (who, instant, lane, from, to, lost) ->
                instant == now && used.computeIfAbsent(who, study::used).any(lane, from, to, lost))
        && wasOn.onlyLoses(isOn, changes, at, false, some, (_, _, _, _, _, _) -> false);
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
