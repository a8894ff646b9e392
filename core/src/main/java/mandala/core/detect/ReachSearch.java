package mandala.core.detect;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.engine.Engine;
import mandala.core.escalation.EscalationPath;
import mandala.core.escalation.EscalationSearch;
import mandala.core.escalation.Escalators;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Permission;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.ExclusionViolation;
import mandala.core.question.Impact;

/** What people do not hold, and could get at: exclusions and critical permissions. */
final class ReachSearch {

  /** Maximum number of critical permissions and accounts for which paths are looked for. */
  private static final int MOST_GOALS = 60;

  /** Maximum number of times that somebody is looked at for a goal. */
  private static final int MOST_TRIES = 200;

  /** Fewer in a large model, where each takes longer; never fewer than {@link #FEWEST_TRIES}. */
  private static final int TRIES_BY_ASSIGNMENTS = 2_000_000;

  private static final int FEWEST_TRIES = 20;

  /** One change that somebody can make alone: longer paths are asked for one by one. */
  private static final EscalationSearch.Limits LIMITS = new EscalationSearch.Limits(1, 60, 1);

  private final Basis basis;
  private final Consumer<Detection> found;

  private ReachSearch(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    this.found = found;
  }

  static void search(Basis basis, Consumer<Detection> found, Impact.Watch watch) {
    ReachSearch search = new ReachSearch(basis, found);
    for (Exclusion it : basis.catalogue.model().exclusions()) {
      search.exclusion(it);
    }
    search.escalation(watch);
  }

  // ---- exclusions -------------------------------------------------------------------------------

  private void exclusion(Exclusion it) {
    Set<PrincipalKey> broken = new HashSet<>();
    basis.engine.conflicts(it, basis.at).forEach(each -> broken.add(each.principal()));
    Engine on = basis.engine.switchedOn();
    for (ExclusionViolation each : on.conflicts(it, basis.at)) {
      PrincipalKey who = each.principal();
      if (!broken.contains(who) && !who.equals(PrincipalKey.ANONYMOUS)) {
        tell(it, new Trouble.ExclusionWithinReach(it.key(), who, null, each.where()), Set.of(who));
      }
    }
    for (Delegation by : basis.catalogue.delegations().values()) {
      PrincipalKey who = by.delegate();
      if (by.window().holdsAt(basis.at)
          && !broken.contains(who)
          && basis.engine.isActive(who, basis.at)) {
        ExclusionViolation each = basis.engine.conflictActing(it, who, by.principal(), basis.at);
        if (each != null) {
          tell(
              it,
              new Trouble.ExclusionWithinReach(it.key(), who, by.principal(), each.where()),
              Set.of(who, by.principal()));
        }
      }
    }
  }

  private void tell(Exclusion it, Trouble trouble, Set<PrincipalKey> people) {
    Set<PermissionKey> sides = new HashSet<>();
    it.sides().forEach(sides::addAll);
    found.accept(Detection.of(people, trouble, basis.risk(sides), 1));
  }

  // ---- escalation -------------------------------------------------------------------------------

  private record Goal(PermissionKey permission, ResourceKey resource) {}

  private void escalation(Impact.Watch watch) {
    List<Goal> goals = goals();
    int most =
        Math.clamp(
            TRIES_BY_ASSIGNMENTS / (1 + basis.catalogue.assignments().size()),
            FEWEST_TRIES,
            MOST_TRIES);
    Escalators escalators = new Escalators(basis.engine, basis.at);
    int left = most;
    for (int i = 0; i < goals.size() && left > 0; i++) {
      int done = i;
      Goal goal = goals.get(i);
      if (!watch.goOn(done, goals.size())) {
        return;
      }
      List<PrincipalKey> able =
          escalators.able(goal.permission(), goal.resource()).stream()
              .filter(who -> !owns(who, goal.resource()))
              .toList();
      if (able.size() > left) {
        basis.cut.add(Detector.ESCALATION);
      }
      List<PrincipalKey> some = able.subList(0, Math.min(left, able.size()));
      left -= some.size();
      escalators
          .toward(
              goal.permission(),
              goal.resource(),
              some,
              LIMITS,
              (_, _) -> watch.goOn(done, goals.size()))
          .forEach(it -> add(goal, it));
    }
    reached.forEach((who, it) ->
        found.accept(
            Detection.of(
                who,
                new Trouble.Escalation(
                    who, it.goal.permission(), it.goal.resource(), it.many, it.approved),
                it.approved ? Permission.Risk.MODERATE : Permission.Risk.CRITICAL,
                it.many)));
  }

  /**
   * Each critical permission on the first resource that it applies to, in each root account; those
   * of Mandala itself first.
   */
  private List<Goal> goals() {
    List<Clause> everywhere = List.of(Clause.of(new Term.Everything()));
    List<Goal> goals = new ArrayList<>();
    for (Permission it : basis.catalogue.permissions().values()) {
      if (it.risk() == Permission.Risk.CRITICAL) {
        for (Account account : basis.catalogue.accounts().values()) {
          if (account.parent() == null) {
            basis
                .engine
                .reach(everywhere, Set.of(it.key()), ResourceKey.of(account.key()), 1)
                .first()
                .stream()
                .limit(1)
                .forEach(place -> goals.add(new Goal(it.key(), place)));
          }
        }
      }
    }
    goals.sort(Comparator.comparing(it -> !it.permission().value().startsWith(Supplied.PREFIX)));
    if (goals.size() > MOST_GOALS) {
      basis.cut.add(Detector.ESCALATION);
    }
    return goals.subList(0, Math.min(MOST_GOALS, goals.size()));
  }

  /** What somebody could get. */
  private static final class Reached {
    Goal goal;
    boolean approved = true;
    int many;

    Reached(Goal first) {
      goal = first;
    }
  }

  private final Map<PrincipalKey, Reached> reached = new LinkedHashMap<>();

  /** Whoever owns an account may change all of it: that is meant, and known. */
  private boolean owns(PrincipalKey who, ResourceKey resource) {
    AccountKey account = basis.catalogue.accountOf(resource);
    return account != null && basis.engine.owns(who, account, basis.at);
  }

  /** Adds a path, but not one that is meant: by activating what one may. */
  private void add(Goal goal, Escalators.Escalator it) {
    EscalationPath path = it.answer().paths().getFirst();
    boolean activates =
        path.changes().stream()
            .allMatch(change -> change.things().getFirst() instanceof Activation);
    if (!activates) {
      Reached so = reached.computeIfAbsent(it.who(), _ -> new Reached(goal));
      so.many++;
      if (so.approved && path.approvals() == 0) {
        so.approved = false;
        so.goal = goal;
      }
    }
  }
}
