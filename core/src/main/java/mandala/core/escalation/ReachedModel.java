package mandala.core.escalation;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.authority.Authority;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.explain.GrantPaths;
import mandala.core.model.Delegation;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Question;
import mandala.core.question.Session;
import org.jspecify.annotations.Nullable;

/** A model on the way, and the change that led to it. */
final class ReachedModel {

  private final @Nullable ReachedModel before;
  private final @Nullable Change change;
  private final Engine engine;
  private final Principal who;
  private final Goal goal;
  private final Instant at;
  private final GrantPaths gifts;
  private @Nullable SecondApproval secondPerson;
  private @Nullable Boolean reached;
  private final Map<Change, List<SecondApproval.Reason>> reasons = new HashMap<>();

  private ReachedModel(
      @Nullable ReachedModel before,
      @Nullable Change change,
      Engine engine,
      Principal who,
      Goal goal,
      Instant at,
      GrantPaths gifts) {
    this.before = before;
    this.change = change;
    this.engine = engine;
    this.who = who;
    this.goal = goal;
    this.at = at;
    this.gifts = gifts;
  }

  /**
   * {@return the model as it is}
   *
   * @param gifts of its catalogue
   */
  static ReachedModel first(Engine engine, Principal who, Goal goal, Instant at, GrantPaths gifts) {
    return new ReachedModel(null, null, engine, who, goal, at, gifts);
  }

  Engine engine() {
    return engine;
  }

  GrantPaths gifts() {
    return gifts;
  }

  Goal goal() {
    return goal;
  }

  /** {@return who acts}, as this model has it */
  Principal who() {
    Principal now = engine.catalogue().principals().get(who.key());
    return now == null ? who : now;
  }

  Instant at() {
    return at;
  }

  /** {@return the session in which changes are judged}: with a second factor where enrolled */
  Session session() {
    return new Session(who.key(), at, who.enrolled(), null);
  }

  Authority authority(Change next) {
    return Authority.of(engine, Draft.of(List.of(next)), session());
  }

  /** {@return the changes that were made} */
  Set<Change> made() {
    Set<Change> made = new HashSet<>();
    for (ReachedModel it = this; it.change != null && it.before != null; it = it.before) {
      made.add(it.change);
    }
    return made;
  }

  /**
   * {@return the model after one more change}, null where it may not be made
   *
   * @param last whether no other may follow: then null, too, where the goal is not reached, which
   *     is known long before who must approve
   */
  @Nullable ReachedModel then(Change next, boolean last) {
    Authority authority = authority(next);
    Engine after = authority.refusals().isEmpty() ? after(next) : null;
    if (after == null || !authority.ownerless(after).isEmpty()) {
      return null;
    }
    ReachedModel then =
        new ReachedModel(this, next, after, who, goal, at, new GrantPaths(after.catalogue()));
    boolean vain = last && !then.reached();
    return vain || (authority.whoCouldApprove().isEmpty() && !reasons(next, after).isEmpty())
        ? null
        : then;
  }

  private @Nullable Engine after(Change next) {
    try {
      return engine.after(List.of(next));
    } catch (IllegalArgumentException _) {
      return null; // it leaves a faulty model
    }
  }

  private List<SecondApproval.Reason> reasons(Change next, Engine after) {
    SecondApproval judge = secondPerson == null ? new SecondApproval(engine) : secondPerson;
    secondPerson = judge;
    return reasons.computeIfAbsent(
        next, _ -> judge.reasons(after, Draft.of(List.of(next)), session()));
  }

  /** {@return whether the goal is reached}, in one's own name or acting for somebody */
  boolean reached() {
    Boolean known = reached;
    if (known == null) {
      known = allowed(null) || actsFor() != null;
      reached = known;
    }
    return known;
  }

  private boolean allowed(@Nullable PrincipalKey whom) {
    boolean mfa = session().mfa();
    return engine
        .decide(new Question(who.key(), goal.permission(), goal.resource(), at, mfa, whom))
        .allowed();
  }

  private @Nullable PrincipalKey actsFor() {
    for (Delegation it : engine.catalogue().delegations().values()) {
      if (it.delegate().equals(who.key()) && it.window().holdsAt(at) && allowed(it.principal())) {
        return it.principal();
      }
    }
    return null;
  }

  /** {@return the path that led here} */
  EscalationPath told() {
    List<EscalationPath.Step> steps = new ArrayList<>();
    for (ReachedModel it = this; it.change != null && it.before != null; it = it.before) {
      Authority authority = it.before.authority(it.change);
      List<SecondApproval.Reason> reasons = it.before.reasons(it.change, it.engine);
      steps.addFirst(
          new EscalationPath.Step.Makes(
              it.change,
              authority.demands(),
              reasons,
              reasons.isEmpty() ? List.of() : authority.whoCouldApprove()));
    }
    PrincipalKey whom = allowed(null) ? null : actsFor();
    if (whom != null) {
      steps.add(new EscalationPath.Step.ActsFor(whom));
    }
    return new EscalationPath(who.key(), steps);
  }
}
