package mandala.core.escalation;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Predicate;
import java.util.function.UnaryOperator;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.explain.GrantPaths;
import mandala.core.explain.GrantStep;
import mandala.core.explain.Obstacle;
import mandala.core.explain.PointScope;
import mandala.core.model.About;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.rule.Activity;
import mandala.core.rule.Bridges;
import mandala.core.rule.Gates;
import mandala.core.rule.JustInTime;
import mandala.core.rule.Membership;
import mandala.core.rule.PermissionClosure;
import org.jspecify.annotations.Nullable;

/**
 * The single changes that could bring somebody nearer to a goal, whoever may make them.
 *
 * <ol>
 *   <li>{@link #byAssignment}, {@link #byBridge}: each line of the model that could give it. What
 *       such a line gives is widened first ({@link #widening}), then its place is made to be
 *       covered ({@link PlaceChanges}), then what else stands against it is removed ({@link
 *       #remedies}): in this order, so that of changes that do not depend on each other one order
 *       only is tried.
 *   <li>{@link #given}: an assignment of exactly this, or a bridge for a group of one's own.
 *   <li>{@link DenyChanges}: what denies it goes; {@link #ungated}: a gate is no longer required.
 * </ol>
 *
 * <p>A goal that lacks a gate is reached by way of the gate, which is a goal of its own ({@link
 * #gates}). Cost: one look at each assignment and bridge. Not thread-safe.
 */
final class CandidateChanges {

  /** How long what is switched on holds. */
  private static final Duration SHIFT = Duration.ofHours(8);

  final Engine engine;
  final Catalogue catalogue;
  final Principal who;
  final Instant at;
  final GrantPaths gifts;
  private final boolean mfa;
  private final Predicate<Subject> has;

  /** Whether what is given may be more than the goal. */
  private boolean wide;

  private int most;

  /** Assignments and bridges of the same that differ in their scope only, by name. */
  private final Map<Change, String> alternatives = new HashMap<>();

  private final SubjectChanges subjects;

  /**
   * @param who acts, with a second factor where enrolled
   * @param gifts of the engine's catalogue
   */
  CandidateChanges(Engine engine, Principal who, Instant at, GrantPaths gifts) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.who = who;
    this.at = at;
    this.gifts = gifts;
    this.mfa = who.enrolled();
    this.has = engine.subjectsOf(who.key(), at);
    this.subjects = new SubjectChanges(this);
  }

  /** {@return the gates that a permission on a resource needs}, as goals; held ones too */
  List<Goal> gates(Goal goal) {
    List<Goal> gates = new ArrayList<>();
    for (PermissionKey gate : Gates.of(goal.permission(), catalogue)) {
      ResourceKey place = Gates.resourceOf(gate, goal.resource(), catalogue);
      if (place != null) {
        gates.add(new Goal(gate, place));
      }
    }
    return gates;
  }

  /**
   * {@return the changes}, none where the permission can never be on the resource
   *
   * @param wide whether what is given may be more than the goal, because more than the goal is
   *     needed: a set or a role instead of a permission, a tree even where the resource alone could
   *     be given
   * @param most lines of the model that need more changes than these may be left out
   */
  List<CandidateChange> toward(Goal goal, boolean wide, int most) {
    Permission permission = catalogue.permissions().get(goal.permission());
    if (permission == null || !permission.on().contains(catalogue.typeOf(goal.resource()))) {
      return List.of();
    }
    this.wide = wide;
    this.most = most;
    alternatives.clear();
    Map<Change, Integer> candidates = new LinkedHashMap<>();
    PointScope point = new PointScope(catalogue, who, goal.resource());
    boolean view = permission.accessClass() == AccessClass.VIEW;
    AccountKey account = accountOf(goal.resource());
    Visit visit = new Visit(account, belongsTo(account));
    for (Assignment it : catalogue.assignments().values()) {
      byAssignment(it, goal, point, view, visit, candidates);
    }
    for (Bridge it : catalogue.bridges().values()) {
      byBridge(it, goal, point, view, candidates);
    }
    given(goal, candidates);
    new DenyChanges(this).against(goal, point, candidates);
    ungated(goal, candidates);
    return candidates.entrySet().stream()
        .map(it -> new CandidateChange(it.getKey(), it.getValue(), alternatives.get(it.getKey())))
        .toList();
  }

  static void add(Map<Change, Integer> candidates, Change change, int least) {
    candidates.merge(change, least, Math::min);
  }

  boolean has(Subject subject) {
    return has.test(subject);
  }

  boolean belongsTo(AccountKey account) {
    return Membership.belongs(who, account, at, catalogue);
  }

  private AccountKey accountOf(ResourceKey resource) {
    return Objects.requireNonNull(catalogue.accountOf(resource));
  }

  /** The account of a goal, and whether one belongs to it. */
  private record Visit(AccountKey account, boolean belongs) {
    /** Whether being a guest there is a change of its own on the way to a subject's access. */
    boolean demandedBy(Subject subject) {
      boolean comesWith = subject.equals(new Subject.OfAccount(account));
      return !(subject instanceof Subject.Public) && !belongs && !comesWith;
    }
  }

  /** How many changes an assignment needs at least, its place aside. */
  private int least(Assignment it, Goal goal, Visit visit) {
    int least = has(it.subject()) ? 0 : 1;
    least += it.window().holdsAt(at) ? 0 : 1;
    least += visit.demandedBy(it.subject()) ? 1 : 0;
    if (least > most) {
      return least;
    }
    return least + (gifts.allowing(it.gives(), goal.permission(), mfa).exists() ? 0 : 1);
  }

  private void byAssignment(
      Assignment it,
      Goal goal,
      PointScope point,
      boolean view,
      Visit visit,
      Map<Change, Integer> candidates) {
    boolean others =
        it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)
            && !key.equals(who.key());
    if (others || it.effect() == Assignment.Effect.DENY || least(it, goal, visit) > most) {
      return;
    }
    PointScope.Fit fit = point.allowing(it, view);
    List<Clause> clauses = new ArrayList<>(it.scope());
    if (view) {
      clauses.addAll(it.viewScope());
    }
    List<Change> places =
        fit == null ? PlaceChanges.toCover(clauses, goal.resource(), point, this) : List.of();
    GrantPaths.Path path = gifts.allowing(it.gives(), goal.permission(), mfa);
    if (fit == null && places.isEmpty()) {
      return;
    }
    List<List<Change>> remedies = new ArrayList<>();
    boolean possible = remedies(it, fit, visit, remedies);
    line(it.gives(), goal, path, places, possible, remedies, candidates);
  }

  /** What stands against an assignment, apart from what it gives: how each is removed. */
  private boolean remedies(
      Assignment it, PointScope.@Nullable Fit fit, Visit visit, List<List<Change>> remedies) {
    if (!has(it.subject())) {
      remedies.add(subjects.toHave(it.subject()));
    }
    if (it.mode() == Assignment.Mode.JUST_IN_TIME && !isOn(it.key())) {
      remedies.add(
          List.of(
              new Change.Added(
                  new Activation(
                      About.NONE, who.key(), it.key(), new Window(at, at.plus(SHIFT))))));
    }
    boolean shut = !it.window().holdsAt(at);
    boolean sealed = has(fit, Obstacle.SealedBy.class);
    if (shut || sealed) {
      Assignment mended = shut ? Rewritten.window(it, Window.ALWAYS) : it;
      List<Change> mends = new ArrayList<>();
      mends.add(new Change.Altered(it, sealed ? Rewritten.crossing(mended) : mended));
      if (sealed) {
        unsealing(fit).forEach(mends::add);
      }
      remedies.add(mends);
    }
    if (visit.demandedBy(it.subject())) {
      remedies.add(List.of(guest(visit.account())));
    }
    suspended(visit.account(), remedies);
    return removable(fit, remedies);
  }

  private void byBridge(
      Bridge it, Goal goal, PointScope point, boolean view, Map<Change, Integer> candidates) {
    AccountKey account = accountOf(goal.resource());
    Group group = catalogue.groups().get(it.group());
    if (group == null || !Bridges.leadsTo(it, account, catalogue)) {
      return;
    }
    PointScope.Fit fit = point.allowing(it, view);
    List<Change> places =
        fit == null ? PlaceChanges.toCover(it.scope(), goal.resource(), point, this) : List.of();
    if (fit == null && places.isEmpty()) {
      return;
    }
    List<List<Change>> remedies = new ArrayList<>();
    Subject subject = new Subject.OfGroup(it.group());
    if (!has(subject)) {
      remedies.add(subjects.toHave(subject));
    }
    boolean shut = !it.window().holdsAt(at);
    if (shut || it.status() != Bridge.Status.ACCEPTED) {
      Bridge open = Rewritten.status(it, Bridge.Status.ACCEPTED);
      remedies.add(
          List.of(new Change.Altered(it, shut ? Rewritten.window(open, Window.ALWAYS) : open)));
    }
    if (!belongsTo(group.account())) {
      remedies.add(List.of(guest(group.account())));
    }
    suspended(group.account(), remedies);
    suspended(account, remedies);
    if (has(fit, Obstacle.SealedBy.class)) {
      remedies.add(unsealing(fit));
    }
    boolean possible = removable(fit, remedies);
    GrantPaths.Path path = gifts.allowing(it.gives(), goal.permission(), mfa);
    line(it.gives(), goal, path, places, possible, remedies, candidates);
  }

  /** The changes of a line: what it gives first, then its place, then what stands against it. */
  private void line(
      Gives gives,
      Goal goal,
      GrantPaths.Path path,
      List<Change> places,
      boolean possible,
      List<List<Change>> remedies,
      Map<Change, Integer> candidates) {
    boolean factor = false;
    for (Obstacle obstacle : path.obstacles()) {
      if (obstacle instanceof Obstacle.RoleRetired(RoleKey key)) {
        remedies.add(altered(catalogue.roles().get(key), Rewritten::active));
      }
      factor |= obstacle instanceof Obstacle.NeedsSecondFactor;
    }
    if (!possible || remedies.stream().anyMatch(List::isEmpty)) {
      return;
    }
    int left = remedies.size() + (places.isEmpty() ? 0 : 1);
    if (!path.exists() || factor) {
      for (Change change : widening(gives, goal.permission())) {
        add(candidates, change, 1 + left);
      }
    } else if (!places.isEmpty()) {
      places.forEach(change -> add(candidates, change, left));
    } else {
      remedies.forEach(remedy -> remedy.forEach(change -> add(candidates, change, left)));
    }
  }

  private static boolean has(PointScope.@Nullable Fit fit, Class<? extends Obstacle> kind) {
    return fit != null && fit.obstacles().stream().anyMatch(kind::isInstance);
  }

  /** Adds what removes the other obstacles of a clause; false where nothing can. */
  private boolean removable(PointScope.@Nullable Fit fit, List<List<Change>> remedies) {
    for (Obstacle obstacle : fit == null ? List.<Obstacle>of() : fit.obstacles()) {
      if (obstacle instanceof Obstacle.StaysAtHome) {
        return false;
      }
      if (obstacle instanceof Obstacle.ReachedForViewingOnly) {
        remedies.add(subjects.reaching());
      }
    }
    return true;
  }

  private boolean isOn(AssignmentKey key) {
    return JustInTime.isActivated(who.key(), key, at, catalogue);
  }

  Change guest(AccountKey account) {
    return new Change.Added(new Guest(About.NONE, who.key(), account, false, Window.ALWAYS, null));
  }

  private void suspended(AccountKey account, List<List<Change>> remedies) {
    for (Account it : Activity.suspended(account, catalogue)) {
      remedies.add(altered(it, Rewritten::active));
    }
  }

  private List<Change> unsealing(PointScope.@Nullable Fit fit) {
    List<Change> changes = new ArrayList<>();
    for (Obstacle obstacle : fit == null ? List.<Obstacle>of() : fit.obstacles()) {
      if (obstacle instanceof Obstacle.SealedBy(ResourceKey seal)) {
        Resource resource = catalogue.resources().get(seal);
        AccountKey account = catalogue.accountOf(seal);
        changes.addAll(
            resource != null || account == null
                ? altered(resource, Rewritten::unsealed)
                : altered(catalogue.accounts().get(account), Rewritten::unsealed));
      }
    }
    return changes;
  }

  static <T extends Thing> List<Change> altered(@Nullable T was, UnaryOperator<T> rewritten) {
    if (was == null || isLocked(was.key())) {
      return List.of();
    }
    Thing is = rewritten.apply(was);
    return is.equals(was) ? List.of() : List.of(new Change.Altered(was, is));
  }

  static boolean isLocked(@Nullable Key key) {
    return key != null && key.value().startsWith(Supplied.PREFIX);
  }

  /** What is given gives one permission more: by a set, by a role, by an implication. */
  private List<Change> widening(Gives gives, PermissionKey wanted) {
    List<Change> changes = new ArrayList<>();
    Permission goal = catalogue.permissions().get(wanted);
    for (GrantStep gift : gifts.within(gives)) {
      switch (gift) {
        case GrantStep.OfSet(PermissionSetKey key) ->
            changes.addAll(altered(catalogue.sets().get(key), it -> Rewritten.with(it, wanted)));
        case GrantStep.OfRole(RoleKey key, var _, var _) -> {
          Role role = catalogue.roles().get(key);
          for (PermissionSet set : setsGiving(wanted)) {
            if (role != null && !role.sets().contains(set.key())) {
              changes.addAll(altered(role, it -> Rewritten.with(it, set.key())));
            }
          }
        }
        case GrantStep.OfPermission(PermissionKey key) -> {
          Permission permission = catalogue.permissions().get(key);
          if (permission != null && goal != null && !key.equals(wanted)) {
            changes.addAll(altered(permission, it -> Rewritten.implying(it, wanted)));
          }
        }
      }
    }
    return changes;
  }

  /** The first set that gives a permission, or all of them where more may be given. */
  private List<PermissionSet> setsGiving(PermissionKey permission) {
    return catalogue.sets().values().stream()
        .filter(it -> gives(new Gives.OfSet(it.key()), permission))
        .limit(wide ? Long.MAX_VALUE : 1)
        .toList();
  }

  private boolean gives(Gives gives, PermissionKey permission) {
    GrantPaths.Path path = gifts.allowing(gives, permission, mfa);
    return path.exists() && path.obstacles().isEmpty();
  }

  /** What an assignment of a goal may give: the permission, or more. */
  private List<Gives> giving(PermissionKey permission) {
    List<Gives> all = new ArrayList<>(List.of(new Gives.OfPermission(permission)));
    if (wide) {
      setsGiving(permission).forEach(it -> all.add(new Gives.OfSet(it.key())));
      catalogue.roles().values().stream()
          .map(it -> new Gives.OfRole(it.key()))
          .filter(it -> gives(it, permission))
          .forEach(all::add);
    }
    return all;
  }

  /** Where an assignment of a goal may hold: the resource, or trees from it upwards. */
  private List<Term> holding(ResourceKey resource) {
    List<Term> all = new ArrayList<>(List.of(new Term.Only(resource)));
    for (ResourceKey at = resource; at != null; at = catalogue.parentOf(at)) {
      all.add(new Term.Tree(at));
    }
    return all;
  }

  /** An assignment of the goal; a bridge of it for a group of one's own. */
  private void given(Goal goal, Map<Change, Integer> candidates) {
    Permission permission = Objects.requireNonNull(catalogue.permissions().get(goal.permission()));
    AccountKey account = accountOf(goal.resource());
    AssignmentKey key =
        Rewritten.freeKey(catalogue.assignments()::containsKey, who.key(), permission);
    Map<AccountKey, Group> sources = new LinkedHashMap<>();
    for (Group it : catalogue.groups().values()) {
      if (has(new Subject.OfGroup(it.key()))
          && belongsTo(it.account())
          && !it.account().equals(account)) {
        sources.putIfAbsent(it.account(), it);
      }
    }
    for (Gives gives : giving(goal.permission())) {
      for (Term where : holding(goal.resource())) {
        Assignment assignment =
            new Assignment(
                key,
                About.NONE,
                new Subject.OfPrincipal(who.kind(), who.key()),
                gives,
                Assignment.Effect.ALLOW,
                List.of(Clause.of(where)),
                List.of(),
                Window.ALWAYS,
                Assignment.Mode.STANDING,
                false);
        offer(
            new Change.Added(assignment),
            belongsTo(account) ? 1 : 2,
            "assignment of " + goal,
            candidates);
        for (Group group : sources.values()) {
          Change bridge = new Change.Added(bridge(assignment, account, group));
          offer(bridge, 1, gives + " by " + group.key() + " for " + goal, candidates);
        }
      }
    }
  }

  private void offer(Change change, int least, String name, Map<Change, Integer> candidates) {
    add(candidates, change, least);
    alternatives.put(change, name);
  }

  private static Bridge bridge(Assignment like, AccountKey account, Group group) {
    return new Bridge(
        new BridgeKey(like.key().value() + ".by." + group.key().value()),
        About.NONE,
        account,
        group.key(),
        like.gives(),
        like.scope(),
        Window.ALWAYS,
        Bridge.Status.ACCEPTED);
  }

  /** A gate that is lacking is no longer required, by the permission or by what it implies. */
  private void ungated(Goal goal, Map<Change, Integer> candidates) {
    for (PermissionKey each : PermissionClosure.implied(goal.permission(), catalogue)) {
      Permission it = catalogue.permissions().get(each);
      for (PermissionKey gate : it == null ? List.<PermissionKey>of() : it.requires()) {
        altered(it, was -> Rewritten.without(was, gate))
            .forEach(change -> add(candidates, change, 1));
      }
    }
  }
}
