package mandala.core.escalation;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.authority.Refusal;
import mandala.core.authority.RequiredRight;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import org.jspecify.annotations.Nullable;

/**
 * The changes that can be made at a step and may lead to the goal within so many changes: found
 * backwards, from the goal to what its changes demand, and so on, breadth first.
 */
final class PermittedChanges {

  /** A goal, and how many changes are needed at least once it is reached. */
  private record Behind(Goal goal, int more) {}

  private final ReachedModel step;
  private final int left;
  private final Map<Change, CandidateChange> permitted = new LinkedHashMap<>();
  private final Map<Change, Integer> followed = new HashMap<>();
  private final Map<Change, List<RequiredRight>> lacks = new HashMap<>();
  private final Set<Change> never = new LinkedHashSet<>();
  private final Deque<Behind> open = new ArrayDeque<>();

  private PermittedChanges(ReachedModel step, int left) {
    this.step = step;
    this.left = left;
  }

  /**
   * {@return the changes}, those nearest to the goal first
   *
   * @param holders to act for whom helps, too
   * @param left how many changes may be made in all, at least 1
   */
  static List<CandidateChange> of(ReachedModel step, List<Principal> holders, int left) {
    return new PermittedChanges(step, left).search(holders);
  }

  private List<CandidateChange> search(List<Principal> holders) {
    CandidateChanges candidates =
        new CandidateChanges(step.engine(), step.who(), step.at(), step.gifts());
    Map<Goal, Integer> seen = new HashMap<>();
    open.add(new Behind(step.goal(), 0));
    follow(new DelegationChanges(candidates).toward(step.goal(), holders), 0);
    while (!open.isEmpty()) {
      Behind next = open.remove();
      if (seen.getOrDefault(next.goal(), Integer.MAX_VALUE) > next.more()) {
        seen.put(next.goal(), next.more());
        List<Goal> gates = new ArrayList<>(candidates.gates(next.goal()));
        gates.removeIf(gate -> isHeld(step.engine(), gate));
        boolean wide = next.more() > 0 || !gates.isEmpty();
        follow(candidates.toward(next.goal(), wide, left - next.more()), next.more());
        gates.forEach(gate -> open.add(new Behind(gate, next.more())));
      }
    }
    return new ArrayList<>(permitted.values());
  }

  private boolean isHeld(Engine engine, Goal goal) {
    return engine.decide(step.session().asks(goal.permission(), goal.resource())).allowed();
  }

  /** Sorts changes into those that can be made now, and goals behind those that cannot. */
  private void follow(List<CandidateChange> candidates, int more) {
    for (CandidateChange move : candidates) {
      int needed = more + move.least();
      List<RequiredRight> lacking = needed > left ? null : lacking(move.change());
      if (lacking == null) {
        continue;
      }
      if (lacking.isEmpty()) {
        permitted.putIfAbsent(move.change(), move);
      } else if (needed < left
          && followed.getOrDefault(move.change(), Integer.MAX_VALUE) > needed) {
        followed.put(move.change(), needed);
        for (RequiredRight demand : lacking) {
          demand
              .anyOf()
              .forEach(it -> open.add(new Behind(new Goal(demand.permission(), it), needed)));
        }
      }
    }
  }

  /** What the author lacks for a change, null where no right helps. */
  private @Nullable List<RequiredRight> lacking(Change change) {
    if (never.contains(change)) {
      return null;
    }
    List<RequiredRight> known = lacks.get(change);
    if (known == null) {
      known = new ArrayList<>();
      for (Refusal refusal : step.authority(change).refusals()) {
        if (!(refusal instanceof Refusal.Lacking(var _, RequiredRight demand))) {
          never.add(change);
          return null;
        }
        known.add(demand);
      }
      lacks.put(change, known);
    }
    return known;
  }
}
