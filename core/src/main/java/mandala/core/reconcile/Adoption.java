package mandala.core.reconcile;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.evaluate.PermissionReach;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.core.question.Session;
import mandala.core.question.Verdict;

/**
 * Changes the model so that it says what another system holds: what is extra there is given in the
 * model, what is missing there is taken. A right is taken by removing what gives somebody nothing
 * else, and by a deny where there is no such assignment. Each change is proved on the engine.
 */
public final class Adoption {

  private static final Comparator<AssignmentKey> ORDER = Comparator.comparing(AssignmentKey::value);

  private final Instant at;
  private final List<Change> changes = new ArrayList<>();
  private Engine now;

  private Adoption(Engine engine, Instant at) {
    this.now = engine;
    this.at = at;
  }

  /**
   * What came of it.
   *
   * @param changes in an order in which each fits what those before left
   * @param left what no such change settles: of identities, and where a deny, a seal or a rule of
   *     the model stands against it
   */
  public record Answer(List<Change> changes, List<Discrepancy> left) {
    /** Copies its lists. */
    public Answer {
      changes = List.copyOf(changes);
      left = List.copyOf(left);
    }
  }

  /** {@return what settles some discrepancies} at an instant */
  public static Answer of(Engine engine, Instant at, Collection<Discrepancy> some) {
    List<Discrepancy> left = new ArrayList<>();
    List<Discrepancy> tried = new ArrayList<>(some);
    // what is given first can be taken in part: a permission may bring others with it
    tried.sort(Comparator.comparing(it -> !(it instanceof Discrepancy.Extra)));
    while (true) {
      Adoption adoption = new Adoption(engine, at);
      List<Discrepancy> failed = new ArrayList<>();
      tried.stream().filter(it -> !adoption.settles(it)).forEach(failed::add);
      tried.stream().filter(it -> !adoption.agrees(it)).forEach(failed::add);
      left.addAll(failed);
      if (!tried.removeAll(failed)) {
        return new Answer(adoption.changes, some.stream().filter(left::contains).toList());
      }
    }
  }

  /** All of it, or nothing. */
  private boolean settles(Discrepancy it) {
    PrincipalKey who = it.who();
    PermissionKey what = it.permission();
    Principal principal = who == null ? null : now.catalogue().principals().get(who);
    if (who == null || what == null || principal == null) {
      return false;
    }
    Engine before = now;
    int done = changes.size();
    Subject subject = new Subject.OfPrincipal(principal.kind(), who);
    takeAway(subject, who, what, it.missing());
    Access access = access(now, who);
    add(subject, who, what, access, it.missing(), Assignment.Effect.DENY);
    add(subject, who, what, access, it.extra(), Assignment.Effect.ALLOW);
    if (agrees(it)) {
      return true;
    }
    changes.subList(done, changes.size()).clear();
    now = before;
    return false;
  }

  /** Whether it is settled; what came after may stand against it. */
  private boolean agrees(Discrepancy it) {
    PrincipalKey who = it.who();
    PermissionKey what = it.permission();
    if (who == null || what == null) {
      return false;
    }
    Access access = access(now, who);
    return it.missing().stream().noneMatch(place -> isAllowed(access, what, place))
        && it.extra().stream().allMatch(place -> isAllowed(access, what, place));
  }

  /** Gives or denies where that changes anything. */
  private void add(
      Subject subject,
      PrincipalKey who,
      PermissionKey what,
      Access access,
      List<ResourceKey> places,
      Assignment.Effect effect) {
    boolean denies = effect == Assignment.Effect.DENY;
    List<ResourceKey> some =
        places.stream().filter(it -> isAllowed(access, what, it) == denies).toList();
    if (!some.isEmpty()) {
      List<Term> where = denies ? fewest(some, places, what) : only(some);
      Change change = new Change.Added(assignment(subject, who, what, where, effect));
      changes.add(change);
      now = now.after(List.of(change));
    }
  }

  private static List<Term> only(List<ResourceKey> places) {
    return places.stream().map(it -> (Term) new Term.Only(it)).toList();
  }

  /**
   * The fewest terms that cover some places for a permission, and none but those that may be: the
   * lowest place whose tree has nothing else to which the permission applies takes the place of
   * those below it.
   *
   * @param may contains the places
   */
  private List<Term> fewest(List<ResourceKey> places, List<ResourceKey> may, PermissionKey what) {
    Catalogue catalogue = now.catalogue();
    Map<ResourceKey, Integer> below = new HashMap<>();
    for (ResourceKey it : may) {
      for (ResourceKey at = it; at != null; at = catalogue.parentOf(at)) {
        below.merge(at, 1, Integer::sum);
      }
    }
    PermissionReach reach = now.reach(Set.of(what));
    Map<ResourceKey, Boolean> whole = new HashMap<>();
    Set<Term> terms = new LinkedHashSet<>();
    for (ResourceKey it : places) {
      ResourceKey top = it;
      int most = 1;
      for (ResourceKey at = it;
          at != null
              && whole.computeIfAbsent(
                  at, tree -> count(tree, reach) == below.getOrDefault(tree, 0));
          at = catalogue.parentOf(at)) {
        if (below.getOrDefault(at, 0) > most) {
          top = at;
          most = below.getOrDefault(at, 0);
        }
      }
      terms.add(most > 1 ? new Term.Tree(top) : new Term.Only(it));
    }
    return List.copyOf(terms);
  }

  private static int count(ResourceKey tree, PermissionReach reach) {
    return reach.of(List.of(Clause.of(new Term.Tree(tree))), null, 0).places();
  }

  /** Removes assignments to somebody alone that give nothing but what is to be taken. */
  private void takeAway(
      Subject subject, PrincipalKey who, PermissionKey what, List<ResourceKey> taken) {
    if (taken.isEmpty()) {
      return;
    }
    List<Assignment> own =
        now.catalogue().assignments().values().stream()
            .filter(it -> it.subject().equals(subject))
            .filter(it -> it.effect() == Assignment.Effect.ALLOW)
            .filter(it -> it.mode() == Assignment.Mode.STANDING)
            .sorted(Comparator.comparing(Assignment::key, ORDER))
            .toList();
    for (Assignment it : own) {
      Access had = access(now, who);
      Change removal = new Change.Removed(it);
      Engine after = now.after(List.of(removal));
      Access has = access(after, who);
      Difference difference = had.difference(has);
      long wanted =
          taken.stream()
              .filter(place -> isAllowed(had, what, place) && !isAllowed(has, what, place))
              .count();
      if (wanted > 0 && difference.gained() == 0 && difference.lost() == wanted) {
        changes.add(removal);
        now = after;
      }
    }
  }

  private static boolean isAllowed(Access access, PermissionKey what, ResourceKey place) {
    return access.verdict(what, place) == Verdict.ALLOWED;
  }

  private Access access(Engine engine, PrincipalKey who) {
    return engine.access(new Session(who, at, true, null));
  }

  private Assignment assignment(
      Subject subject,
      PrincipalKey who,
      PermissionKey what,
      List<Term> where,
      Assignment.Effect effect) {
    return new Assignment(
        freeKey(who + "-" + what + (effect == Assignment.Effect.DENY ? "-denied" : "")),
        About.NONE,
        subject,
        new Gives.OfPermission(what),
        effect,
        where.stream().map(Clause::of).toList(),
        List.of(),
        Window.ALWAYS,
        Assignment.Mode.STANDING,
        false);
  }

  private AssignmentKey freeKey(String wanted) {
    AssignmentKey key = new AssignmentKey(wanted);
    for (int i = 2; now.catalogue().assignments().containsKey(key); i++) {
      key = new AssignmentKey(wanted + "-" + i);
    }
    return key;
  }
}
