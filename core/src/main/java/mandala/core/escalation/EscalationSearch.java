package mandala.core.escalation;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.explain.GrantPaths;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;
import mandala.core.remediation.Additions;

/**
 * Finds the shortest paths by which somebody could get an access that is not held now, making every
 * change alone (a second person only approves): the hard way to learn what rights over the model
 * (section 11) amount to.
 *
 * <ol>
 *   <li>{@link #search} tries paths of 0 changes, then of 1, and so on, and stops at the first
 *       length that has any.
 *   <li>{@link PermittedChanges} goes backwards from the goal: changes that bring nearer to it
 *       ({@link CandidateChanges}); where the author lacks what one of them demands, that is a goal
 *       of its own, as long as enough changes are left. What remains are the changes that can be
 *       made now.
 *   <li>{@link ReachedModel#then} makes one: judged by {@link Authority} in the model before,
 *       applied by the engine; left out where it would leave a faulty model or an account without
 *       its last owner, or where a second person must approve and nobody could.
 * </ol>
 *
 * <p>Every reported path is valid when it is replayed, for each step was made. That no shorter one
 * is left out is held against an exhaustive search over all changes of the kinds that are listed at
 * {@link CandidateChanges}; where the bound on models ends the search, {@link Answer#whole} says
 * so.
 *
 * <p>Acting for somebody counts only as the last step, for whoever has the access at the start:
 * nobody uses rights over the model while acting for another (section 11). Not thread-safe.
 */
public final class EscalationSearch {

  /** How many of those who have the access are tried as somebody to act for. */
  private static final int MOST_HOLDERS = 60;

  /**
   * How far to look.
   *
   * @param changes the most changes in one path, 1 to 6
   * @param models at most so many models are made
   * @param found the most paths to report
   */
  public record Limits(int changes, int models, int found) {

    /** For one person, at a screen. */
    public static final Limits ONE = new Limits(3, 400, 8);

    /** For each of everybody: the shortest path alone. */
    public static final Limits EACH = new Limits(2, 60, 1);

    /** {@return the same with another length of paths} */
    public Limits withChanges(int most) {
      return new Limits(most, models, found);
    }

    /** Refuses what is out of range. */
    public Limits {
      if (changes < 1 || changes > 6 || models < 1 || found < 1) {
        throw new IllegalArgumentException(
            "A path has 1 to 6 changes, and at least one model and one path are looked at");
      }
    }
  }

  /**
   * What was found.
   *
   * @param held whether it is held already, in one's own name and with the second factor where
   *     enrolled; then there are no paths
   * @param paths the shortest, all of the same number of changes; those that ask for the fewest
   *     approvals first
   * @param whole whether every path of that length, or of the longest that was allowed, was tried
   * @param models how many models were made
   */
  public record Answer(boolean held, List<EscalationPath> paths, boolean whole, int models) {
    /** Copies its paths. */
    public Answer {
      paths = List.copyOf(paths);
    }
  }

  private final Engine start;
  private final Principal who;
  private final Goal goal;
  private final Instant at;
  private final Limits limits;
  private final GrantPaths gifts;
  private final List<Principal> holders;
  private final List<ReachedModel> found = new ArrayList<>();
  private int models;

  private EscalationSearch(
      Engine start, Principal who, Goal goal, Instant at, Limits limits, GrantPaths gifts) {
    this.start = start;
    this.who = who;
    this.goal = goal;
    this.at = at;
    this.limits = limits;
    this.gifts = gifts;
    this.holders = holders();
  }

  /**
   * {@return how a principal could get an access}
   *
   * @param question acting for nobody; whether it has a second factor says how one is signed in
   *     now: who is enrolled can always sign in with it
   * @throws IllegalArgumentException if something in it is unknown, or it acts for another
   */
  public static Answer of(Engine engine, Question question, Limits limits) {
    return of(engine, question, limits, new GrantPaths(engine.catalogue()));
  }

  static Answer of(Engine engine, Question question, Limits limits, GrantPaths gifts) {
    Principal who = engine.catalogue().principals().get(question.principal());
    if (who == null || question.actingFor() != null) {
      throw new IllegalArgumentException(
          "Paths are looked for from one known principal, acting for nobody; '"
              + question.principal()
              + "' is not");
    }
    Goal goal = new Goal(question.permission(), question.resource());
    Verdict now = engine.decide(question).verdict();
    if (now == Verdict.ERROR) {
      throw new IllegalArgumentException(engine.decide(question).toString());
    }
    if (now == Verdict.ALLOWED || now == Verdict.INACTIVE || now == Verdict.NOT_APPLICABLE) {
      return new Answer(now == Verdict.ALLOWED, List.of(), true, 0);
    }
    if (Additions.bySecondFactor(engine, question)) {
      EscalationPath signing =
          new EscalationPath(who.key(), List.of(new EscalationPath.Step.SignsIn()));
      return new Answer(false, List.of(signing), true, 0);
    }
    return new EscalationSearch(engine, who, goal, question.at(), limits, gifts).search();
  }

  /** Who has it, each for whom somebody may get to act; by key. */
  private List<Principal> holders() {
    Permission permission = start.catalogue().permissions().get(goal.permission());
    if (permission == null || !permission.mayBeDelegated()) {
      return List.of();
    }
    return start
        .whoCan(WhoQuestion.of(goal.permission(), goal.resource(), at, true))
        .allowed()
        .stream()
        .map(it -> start.catalogue().principals().get(it.principal()))
        .filter(Objects::nonNull)
        .map(Objects::requireNonNull)
        .filter(it -> !it.key().equals(who.key()))
        .sorted(Comparator.comparing(it -> it.key().value()))
        .limit(MOST_HOLDERS)
        .toList();
  }

  private Answer search() {
    boolean whole = true;
    for (int most = 0; most <= limits.changes() && found.isEmpty() && whole; most++) {
      whole = descend(ReachedModel.first(start, who, goal, at, gifts), most, new HashMap<>());
    }
    List<EscalationPath> paths =
        found.stream()
            .map(ReachedModel::told)
            .sorted(
                Comparator.comparingLong(EscalationPath::approvals)
                    .thenComparingInt(it -> it.steps().size()))
            .toList();
    return new Answer(false, paths, whole, models);
  }

  /** Goes on from a step; false where the bound on models cut it short. */
  private boolean descend(ReachedModel step, int left, Map<Set<Change>, Integer> seen) {
    if (step.reached()) {
      found.add(step);
      return true;
    }
    boolean whole = true;
    List<CandidateChange> candidates =
        left == 0 ? List.of() : PermittedChanges.of(step, holders, left);
    Set<String> enough = new HashSet<>();
    for (CandidateChange move : candidates) {
      if (move.instead() != null && enough.contains(move.instead())) {
        continue;
      }
      if (found.size() >= limits.found()) {
        return whole;
      }
      if (models >= limits.models()) {
        return false;
      }
      Set<Change> made = new HashSet<>(step.made());
      if (made.add(move.change()) && seen.getOrDefault(made, -1) < left - 1) {
        seen.put(made, left - 1);
        models++;
        ReachedModel then = step.then(move.change(), left == 1);
        if (then != null && move.instead() != null && then.reached()) {
          enough.add(move.instead());
        }
        whole &= then == null || descend(then, left - 1, seen);
      }
    }
    return whole;
  }
}
