package mandala.core.remediation;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Removal;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.explain.Explanation;
import mandala.core.explain.Obstacle;
import mandala.core.explain.Route;
import mandala.core.explain.Routes;
import mandala.core.explain.Source;
import mandala.core.model.About;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.rule.Guests;
import org.jspecify.annotations.Nullable;

/**
 * What would give an access that is not there, with the least else first.
 *
 * <ol>
 *   <li>{@link #next} takes the routes that would give it and do not, and for each the changes that
 *       remove its obstacles ({@link #remedy}): join the group, prolong the window, accept the
 *       bridge, undo the deny, give the gate. Besides, an assignment of exactly this is a way.
 *   <li>{@link #search} tries each on the engine; where something else still stands against it,
 *       goes on from there.
 *   <li>What gives it is weighed by all that it changes for anybody ({@link Remediation}).
 * </ol>
 *
 * <p>Each way gives it when it is made. Bounded by {@link #TRIED} models. Second factors are not
 * given by a draft: {@link #bySecondFactor} tells whether one would be enough.
 */
public final class Additions {

  private static final int TRIED = 60;
  private static final int FOUND = 8;
  private static final int DEEP = 4;

  /** Of so many near routes the obstacles are looked at, each time. */
  private static final int NEAR = 8;

  /** How long what is prolonged or let in holds from the instant that is asked about. */
  private static final Duration MONTH = Duration.ofDays(30);

  private static final Duration SHIFT = Duration.ofHours(8);

  private final Engine engine;
  private final Question question;

  private Additions(Engine engine, Question question) {
    this.engine = engine;
    this.question = question;
  }

  private record Node(Draft draft, int depth) {}

  /**
   * {@return ways to give an access}, none where it is allowed already or can never be
   *
   * @throws IllegalArgumentException if something in the question is unknown, or the permission
   *     does not apply
   */
  public static List<Remediation> of(Engine engine, Question question) {
    if (question.principal().equals(PrincipalKey.ANONYMOUS)
        || engine.decide(question).verdict() == Verdict.ALLOWED) {
      return List.of();
    }
    return new Additions(engine, question).ways();
  }

  /** {@return whether signing in with a second factor would be enough} */
  public static boolean bySecondFactor(Engine engine, Question question) {
    Question with =
        new Question(
            question.principal(),
            question.permission(),
            question.resource(),
            question.at(),
            true,
            question.actingFor());
    return !question.mfa()
        && engine.decide(question).verdict() != Verdict.ALLOWED
        && engine.decide(with).verdict() == Verdict.ALLOWED;
  }

  private List<Remediation> ways() {
    List<Remediation> ways = new ArrayList<>();
    for (Draft draft : search()) {
      ways.add(Remediation.of(draft, engine, engine.after(draft.inOrder()), question));
    }
    ways.sort(Remediation.CHEAPEST);
    return ways;
  }

  private List<Draft> search() {
    List<Draft> found = new ArrayList<>();
    Set<Draft> seen = new HashSet<>();
    Deque<Node> open = new ArrayDeque<>(List.of(new Node(Draft.EMPTY, 0)));
    for (int tried = 0; !open.isEmpty() && tried < TRIED && found.size() < FOUND; tried++) {
      Node node = open.removeFirst();
      Engine after = after(node.draft());
      if (after == null) {
        continue;
      }
      if (after.decide(question).verdict() == Verdict.ALLOWED) {
        found.add(node.draft());
        continue;
      }
      if (node.depth() < DEEP) {
        for (List<Change> changes : next(after)) {
          Draft draft = joined(node.draft(), changes);
          if (draft != null && seen.add(draft)) {
            open.addLast(new Node(draft, node.depth() + 1));
          }
        }
      }
    }
    return found;
  }

  private @Nullable Engine after(Draft draft) {
    try {
      return draft.isEmpty() ? engine : engine.after(draft.inOrder());
    } catch (IllegalArgumentException _) {
      return null; // it leaves a faulty model
    }
  }

  private static @Nullable Draft joined(Draft draft, List<Change> changes) {
    try {
      Draft joined = draft;
      for (Change change : changes) {
        joined = joined.with(change);
      }
      return joined.isEmpty() ? null : joined;
    } catch (IllegalArgumentException _) {
      return null; // two remedies of one thing do not fit together
    }
  }

  /** What could be tried next: direct ways first. */
  private List<List<Change>> next(Engine now) {
    List<List<Change>> next = new ArrayList<>();
    Catalogue catalogue = now.catalogue();
    Explanation explanation = Routes.of(now).explain(question);
    explanation.near().stream()
        .limit(NEAR)
        .forEach(route -> {
          List<Change> changes = new ArrayList<>();
          for (Obstacle obstacle : route.obstacles()) {
            List<Change> remedy = remedy(obstacle, route, catalogue);
            if (remedy.isEmpty()) {
              return;
            }
            changes.addAll(remedy);
          }
          next.add(changes.stream().distinct().toList());
        });
    if (now.decide(question).verdict() == Verdict.NONE) {
      next.add(give(question.permission(), question.resource(), catalogue));
    }
    return next;
  }

  private PrincipalKey whose() {
    return question.actingFor() == null ? question.principal() : question.actingFor();
  }

  /** The changes that remove an obstacle, none where no draft can. */
  private List<Change> remedy(Obstacle obstacle, Route route, Catalogue now) {
    return switch (obstacle) {
      case Obstacle.OutsideWindow(Window window) -> prolong(window, route, now);
      case Obstacle.NotActivated _ ->
          route.source() instanceof Source.ByAssignment(AssignmentKey key)
                  && question.actingFor() == null
              ? List.of(
                  new Change.Added(
                      new Activation(
                          About.NONE, whose(), key, new Window(question.at(), after(SHIFT)))))
              : List.of();
      case Obstacle.NotMember(Subject subject) -> join(subject, now);
      case Obstacle.GroupRetired(GroupKey key) -> altered(now.groups().get(key), Rewritten::active);
      case Obstacle.RoleRetired(RoleKey key) -> altered(now.roles().get(key), Rewritten::active);
      case Obstacle.AccountSuspended(AccountKey key) ->
          altered(now.accounts().get(key), Rewritten::active);
      case Obstacle.DoesNotBelong(AccountKey account) ->
          List.of(
              new Change.Added(
                  new Guest(
                      About.NONE, whose(), account, false, new Window(null, after(MONTH)), null)));
      case Obstacle.BridgeNotAccepted _ ->
          route.source() instanceof Source.ByBridge(BridgeKey key)
              ? altered(now.bridges().get(key), it -> Rewritten.status(it, Bridge.Status.ACCEPTED))
              : List.of();
      case Obstacle.SealedBy _ ->
          route.source() instanceof Source.ByAssignment(AssignmentKey key)
              ? altered(now.assignments().get(key), Rewritten::crossing)
              : List.of();
      case Obstacle.GateMissing(PermissionKey gate, ResourceKey at) ->
          at == null ? List.of() : give(gate, at, now);
      case Obstacle.DeniedBy(Source.ByAssignment(AssignmentKey key), var _) ->
          new Removal.Unassign(key).in(now);
      case Obstacle.DeniedBy(Source.ByBridge(BridgeKey key), var _) ->
          new Removal.EndBridge(key).in(now);
      case Obstacle.PrincipalInactive(PrincipalKey key) ->
          altered(now.principals().get(key), Rewritten::active);
      case Obstacle.NoDelegation _ -> delegate(now);
      case Obstacle.OutsideDelegation(var _, Obstacle.Why why) ->
          why == Obstacle.Why.NOT_DELEGABLE ? List.of() : delegate(now);
      case Obstacle.NotForDelegates _,
          Obstacle.NeedsSecondFactor _,
          Obstacle.StaysAtHome _,
          Obstacle.ReachedForViewingOnly _ ->
          List.of();
    };
  }

  private static <T extends Thing> List<Change> altered(
      @Nullable T was, java.util.function.UnaryOperator<T> rewritten) {
    if (was == null) {
      return List.of(); // supplied, and so locked
    }
    Thing is = rewritten.apply(was);
    boolean locked = was instanceof Role it && it.key().value().startsWith(Supplied.PREFIX);
    return locked || is.equals(was) ? List.of() : List.of(new Change.Altered(was, is));
  }

  private Instant after(Duration duration) {
    return question.at().plus(duration);
  }

  /** The same window, as long as it must be to hold at the instant, and a month from it on. */
  private Window around(Window window) {
    Instant from = window.from();
    Instant until = window.until();
    return new Window(
        from != null && from.isAfter(question.at()) ? question.at() : from,
        until != null && !until.isAfter(question.at()) ? after(MONTH) : until);
  }

  private List<Change> prolong(Window window, Route route, Catalogue now) {
    return switch (route.source()) {
      case Source.ByAssignment(AssignmentKey key) -> {
        Assignment it = now.assignments().get(key);
        yield it == null || !it.window().equals(window)
            ? List.of()
            : altered(it, each -> Rewritten.window(each, around(window)));
      }
      case Source.ByBridge(BridgeKey key) -> {
        Bridge it = now.bridges().get(key);
        yield it == null || !it.window().equals(window)
            ? List.of()
            : altered(it, each -> Rewritten.window(each, around(window)));
      }
    };
  }

  private List<Change> join(Subject subject, Catalogue now) {
    Principal principal = now.principals().get(whose());
    if (principal == null) {
      return List.of();
    }
    return switch (subject) {
      case Subject.OfGroup(GroupKey key) -> {
        Group.Member member = new Group.Member.OfPrincipal(principal.kind(), principal.key());
        Group group = now.groups().get(key);
        yield group == null || group.members().contains(member)
            ? List.of()
            : altered(group, it -> Rewritten.with(it, member));
      }
      case Subject.OfPattern(PatternKey key) ->
          principal.pattern() == null
              ? altered(principal, it -> Rewritten.pattern(it, key))
              : List.of();
      case Subject.OfAccount(AccountKey key) ->
          List.of(
              new Change.Added(
                  new Guest(
                      About.NONE,
                      principal.key(),
                      key,
                      false,
                      new Window(null, after(MONTH)),
                      null)));
      case Subject.OfPrincipal _, Subject.Public _ -> List.of();
    };
  }

  /** An assignment of exactly this, and a guest membership where it needs one. */
  private List<Change> give(PermissionKey what, ResourceKey where, Catalogue now) {
    Principal principal = now.principals().get(whose());
    Permission permission = now.permissions().get(what);
    AccountKey account = now.accountOf(where);
    if (principal == null || permission == null || account == null) {
      return List.of();
    }
    List<Change> changes = new ArrayList<>();
    changes.add(
        new Change.Added(
            new Assignment(
                Rewritten.freeKey(now.assignments()::containsKey, principal.key(), permission),
                About.NONE,
                new Subject.OfPrincipal(principal.kind(), principal.key()),
                new Gives.OfPermission(what),
                Assignment.Effect.ALLOW,
                List.of(Clause.of(new Term.Only(where))),
                List.of(),
                Window.ALWAYS,
                Assignment.Mode.STANDING,
                false)));
    if (!now.isAtOrBelow(account, principal.account())
        && now.model().guests().stream().noneMatch(it -> lets(it, principal, account, now))) {
      changes.add(
          new Change.Added(
              new Guest(
                  About.NONE,
                  principal.key(),
                  account,
                  false,
                  new Window(null, after(MONTH)),
                  null)));
    }
    return changes;
  }

  private boolean lets(Guest it, Principal principal, AccountKey account, Catalogue now) {
    return it.principal().equals(principal.key())
        && it.window().holdsAt(question.at())
        && Guests.covers(it, account, now);
  }

  private List<Change> delegate(Catalogue now) {
    PrincipalKey whom = question.actingFor();
    if (whom == null) {
      return List.of();
    }
    String stem = question.principal().value() + ".for." + whom.value();
    DelegationKey key = new DelegationKey(stem);
    for (int n = 2; now.delegations().containsKey(key); n++) {
      key = new DelegationKey(stem + "." + n);
    }
    return List.of(
        new Change.Added(
            new Delegation(
                key,
                About.NONE,
                whom,
                question.principal(),
                new Delegation.Limit.Listed(List.of(new Gives.OfPermission(question.permission()))),
                List.of(Clause.of(new Term.Only(question.resource()))),
                new Window(null, after(MONTH)))));
  }
}
