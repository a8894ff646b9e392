package mandala.core.explain;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.evaluate.CandidateGrants;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.rule.Activity;
import mandala.core.rule.Bridges;
import mandala.core.rule.Gates;
import mandala.core.rule.JustInTime;
import org.jspecify.annotations.Nullable;

/**
 * Finds the routes of one question. 1. {@link #byAssignment} and {@link #byBridge} take each that
 * could give the permission there and gather what stands against it. 2. {@link #common} adds what
 * stands against all: denies, gates, inactive people. 3. {@link #delegated} adds what a delegation
 * lets through.
 *
 * <p>Cost: one look at each assignment and bridge that may bear on the question, and on its gates.
 * Not thread-safe.
 */
final class RouteFinder {

  /** So much of what only others are given is looked at, that from nearest first. */
  private static final int MOST_OTHERS = 12;

  private final RouteIndex index;
  private final Catalogue catalogue;
  private final Question question;
  private final GrantPaths gifts;

  /** Whose rights count: the principal, or whom it acts for. */
  private final @Nullable Principal holder;

  private final SubjectPaths held;

  /** The delegate where one acts for another. */
  private final @Nullable Principal delegate;

  private final @Nullable SubjectPaths delegateIn;
  private final boolean mfa;
  private final Map<Place, Boolean> usable = new HashMap<>();
  private final Map<Place, CandidateGrants> bearings = new HashMap<>();
  private final Map<Place, CandidateGrants> delegateBearings = new HashMap<>();

  private record Place(PermissionKey permission, ResourceKey resource) {}

  RouteFinder(RouteIndex index, Question question) {
    this.index = index;
    this.catalogue = index.catalogue();
    this.question = question;
    this.gifts = new GrantPaths(catalogue);
    Principal actor = catalogue.principals().get(question.principal());
    PrincipalKey whom = question.actingFor();
    holder = whom == null ? actor : catalogue.principals().get(whom);
    delegate = whom == null ? null : actor;
    held = new SubjectPaths(index, holder, question.at());
    delegateIn = delegate == null ? null : new SubjectPaths(index, delegate, question.at());
    mfa = question.mfa() && enrolled(actor) && enrolled(holder);
  }

  private static boolean enrolled(@Nullable Principal principal) {
    return principal != null && principal.enrolled();
  }

  Explanation explain() {
    List<Obstacle> everywhere = common(question.permission(), question.resource());
    List<Route> routes = new ArrayList<>(base(question.permission(), question.resource()));
    int more = 0;
    if (everywhere.isEmpty()) { // else joining others would not help
      CandidateGrants.Others others =
          index.others(held.subjects(), question.permission(), question.resource(), MOST_OTHERS);
      routes.addAll(
          byAssignments(others.assignments(), question.permission(), question.resource()));
      more = others.more();
    }
    List<Route> all = new ArrayList<>();
    for (Route route : routes) {
      all.add(delegated(with(route, everywhere)));
    }
    return new Explanation(
        question,
        all.stream()
            .filter(Route::live)
            .sorted(Comparator.comparingInt(it -> it.subjectPath().size() + it.gifts().size()))
            .toList(),
        all.stream()
            .filter(it -> !it.live() && worthTelling(it))
            .sorted(Comparator.comparingInt(it -> it.obstacles().size()))
            .toList(),
        more);
  }

  /** Of what the principal is no member of, only what nothing else stands against is told. */
  private static boolean worthTelling(Route route) {
    return route.obstacles().size() == 1
        || route.obstacles().stream().noneMatch(Obstacle.NotMember.class::isInstance);
  }

  private static Route with(Route route, List<Obstacle> more) {
    List<Obstacle> obstacles = new ArrayList<>(route.obstacles());
    obstacles.addAll(more);
    return new Route(
        route.source(),
        route.subjectPath(),
        route.otherPaths(),
        route.gifts(),
        route.coverage(),
        route.delegation(),
        List.copyOf(obstacles));
  }

  /** The routes of a permission on a resource, before denies, gates and delegations. */
  private List<Route> base(PermissionKey permission, ResourceKey resource) {
    Permission asked = catalogue.permissions().get(permission);
    if (asked == null || !asked.on().contains(catalogue.typeOf(resource))) {
      return List.of();
    }
    CandidateGrants.Grants bearing = bearing(held, permission, resource).allowing();
    List<Route> routes =
        new ArrayList<>(byAssignments(bearing.assignments(), permission, resource));
    PointScope point = new PointScope(catalogue, holder, resource);
    for (Bridge it : bearing.bridges()) {
      Route route = byBridge(it, permission, resource, point, isView(permission));
      if (route != null) {
        routes.add(route);
      }
    }
    return routes;
  }

  private List<Route> byAssignments(
      List<Assignment> assignments, PermissionKey permission, ResourceKey resource) {
    PointScope point = new PointScope(catalogue, holder, resource);
    List<Route> routes = new ArrayList<>();
    for (Assignment it : assignments) {
      Route route = byAssignment(it, permission, resource, point, isView(permission));
      if (route != null) {
        routes.add(route);
      }
    }
    return routes;
  }

  private boolean isView(PermissionKey permission) {
    Permission it = catalogue.permissions().get(permission);
    return it != null && it.accessClass() == AccessClass.VIEW;
  }

  /** What bears on the place, looked up once for each membership. */
  private CandidateGrants bearing(SubjectPaths in, PermissionKey permission, ResourceKey resource) {
    return (in.equals(held) ? bearings : delegateBearings)
        .computeIfAbsent(
            new Place(permission, resource),
            _ -> index.bearing(in.subjects(), permission, resource));
  }

  private @Nullable Route byAssignment(
      Assignment it,
      PermissionKey permission,
      ResourceKey resource,
      PointScope point,
      boolean view) {
    if (it.effect() == Assignment.Effect.DENY || isForSomebodyElse(it.subject())) {
      return null;
    }
    GrantPaths.Path path = gifts.allowing(it.gives(), permission, mfa);
    if (!path.exists()) {
      return null;
    }
    PointScope.Fit fit = point.allowing(it, view);
    if (fit == null) {
      return null;
    }
    List<Obstacle> obstacles = new ArrayList<>();
    SubjectPaths.Way way = held.to(it.subject());
    obstacles.addAll(membership(it.subject(), way));
    if (!it.window().holdsAt(question.at())) {
      obstacles.add(new Obstacle.OutsideWindow(it.window()));
    }
    if (it.mode() == Assignment.Mode.JUST_IN_TIME) {
      if (delegate != null) {
        obstacles.add(new Obstacle.NotForDelegates());
      } else if (!activated(it.key())) {
        obstacles.add(new Obstacle.NotActivated());
      }
    }
    obstacles.addAll(path.obstacles());
    obstacles.addAll(fit.obstacles());
    AccountKey account = index.accountOf(resource);
    if (!(it.subject() instanceof Subject.Public) && !held.belongsTo(account)) {
      obstacles.add(new Obstacle.DoesNotBelong(account));
    }
    suspended(account).ifPresent(obstacles::add);
    return new Route(
        new Source.ByAssignment(it.key()),
        way == null ? List.of() : way.steps(),
        it.subject() instanceof Subject.OfGroup(GroupKey key) ? Math.max(0, held.ways(key) - 1) : 0,
        path.gifts(),
        fit.coverage(),
        null,
        List.copyOf(obstacles));
  }

  private @Nullable Route byBridge(
      Bridge it, PermissionKey permission, ResourceKey resource, PointScope point, boolean view) {
    AccountKey account = index.accountOf(resource);
    if (!Bridges.leadsTo(it, account, catalogue)) {
      return null;
    }
    GrantPaths.Path path = gifts.allowing(it.gives(), permission, mfa);
    PointScope.Fit fit = point.allowing(it, view);
    if (!path.exists() || fit == null) {
      return null;
    }
    List<Obstacle> obstacles = new ArrayList<>();
    SubjectPaths.Way way = held.to(new Subject.OfGroup(it.group()));
    obstacles.addAll(membership(new Subject.OfGroup(it.group()), way));
    if (it.status() != Bridge.Status.ACCEPTED) {
      obstacles.add(new Obstacle.BridgeNotAccepted(it.status()));
    }
    if (!it.window().holdsAt(question.at())) {
      obstacles.add(new Obstacle.OutsideWindow(it.window()));
    }
    AccountKey source = Bridges.sourceOf(it, catalogue);
    if (!held.belongsTo(source)) {
      obstacles.add(new Obstacle.DoesNotBelong(source));
    }
    suspended(source).ifPresent(obstacles::add);
    obstacles.addAll(path.obstacles());
    obstacles.addAll(fit.obstacles());
    suspended(account).ifPresent(obstacles::add);
    return new Route(
        new Source.ByBridge(it.key()),
        way == null ? List.of() : way.steps(),
        Math.max(0, held.ways(it.group()) - 1),
        path.gifts(),
        fit.coverage(),
        null,
        List.copyOf(obstacles));
  }

  private boolean isForSomebodyElse(Subject subject) {
    return subject instanceof Subject.OfPrincipal(var _, PrincipalKey key)
        && (holder == null || !key.equals(holder.key()));
  }

  private static List<Obstacle> membership(Subject subject, SubjectPaths.@Nullable Way way) {
    if (way == null) {
      return List.of(new Obstacle.NotMember(subject));
    }
    return way.retired() == null ? List.of() : List.of(new Obstacle.GroupRetired(way.retired()));
  }

  private boolean activated(AssignmentKey assignment) {
    return holder != null
        && JustInTime.isActivated(holder.key(), assignment, question.at(), catalogue);
  }

  private java.util.Optional<Obstacle> suspended(AccountKey account) {
    return Activity.suspended(account, catalogue).stream()
        .findFirst()
        .map(it -> new Obstacle.AccountSuspended(it.key()));
  }

  /** What stands against every route to a permission on a resource. */
  private List<Obstacle> common(PermissionKey permission, ResourceKey resource) {
    List<Obstacle> obstacles = new ArrayList<>();
    inactive(holder).ifPresent(obstacles::add);
    inactive(delegate).ifPresent(obstacles::add);
    obstacles.addAll(denied(permission, resource));
    for (PermissionKey gate : Gates.of(permission, catalogue)) {
      ResourceKey at = Gates.resourceOf(gate, resource, catalogue);
      if (at == null || !usable(gate, at)) {
        obstacles.add(new Obstacle.GateMissing(gate, at));
      }
    }
    return obstacles;
  }

  private java.util.Optional<Obstacle> inactive(@Nullable Principal principal) {
    return principal == null || Activity.isActive(principal, question.at(), catalogue)
        ? java.util.Optional.empty()
        : java.util.Optional.of(new Obstacle.PrincipalInactive(principal.key()));
  }

  private List<Obstacle> denied(PermissionKey permission, ResourceKey resource) {
    List<Obstacle> denials =
        new ArrayList<>(denied(holder, held, question.principal(), permission, resource));
    if (delegate != null && delegateIn != null) {
      denials.addAll(denied(delegate, delegateIn, delegate.key(), permission, resource));
    }
    return denials;
  }

  private List<Obstacle> denied(
      @Nullable Principal who,
      SubjectPaths in,
      PrincipalKey fallback,
      PermissionKey permission,
      ResourceKey resource) {
    List<Obstacle> denials = new ArrayList<>();
    PointScope point = new PointScope(catalogue, who, resource);
    PrincipalKey named = who == null ? fallback : who.key();
    CandidateGrants.Grants bearing = bearing(in, permission, resource).denying();
    for (Assignment it : bearing.assignments()) {
      boolean single = it.effect() == Assignment.Effect.DENY;
      SubjectPaths.Way way = in.to(it.subject());
      if (way != null
          && way.retired() == null
          && it.window().holdsAt(question.at())
          && !gifts.denying(it.gives(), single, permission).isEmpty()
          && point.denies(it)) {
        denials.add(new Obstacle.DeniedBy(new Source.ByAssignment(it.key()), named));
      }
    }
    for (Bridge it : bearing.bridges()) {
      SubjectPaths.Way way = in.to(new Subject.OfGroup(it.group()));
      if (way != null
          && way.retired() == null
          && Bridges.isInForce(it, question.at(), catalogue)
          && in.belongsTo(Bridges.sourceOf(it, catalogue))
          && Bridges.leadsTo(it, index.accountOf(resource), catalogue)
          && !gifts.denying(it.gives(), false, permission).isEmpty()
          && point.covers(it.scope())) {
        denials.add(new Obstacle.DeniedBy(new Source.ByBridge(it.key()), named));
      }
    }
    return denials;
  }

  private boolean usable(PermissionKey permission, ResourceKey resource) {
    Place place = new Place(permission, resource);
    Boolean known = usable.get(place);
    if (known == null) {
      known =
          common(permission, resource).isEmpty()
              && base(permission, resource).stream().anyMatch(Route::live);
      usable.put(place, known);
    }
    return known;
  }

  /** A route with the delegation that lets it through, or what stands against each. */
  private Route delegated(Route route) {
    if (delegate == null || delegateIn == null || holder == null) {
      return route;
    }
    List<Obstacle> best = List.of(new Obstacle.NoDelegation(holder.key()));
    DelegationKey through = null;
    for (Delegation it : index.delegations(holder.key())) {
      if (it.delegate().equals(delegate.key())) {
        List<Obstacle> obstacles = against(it);
        if (through == null || obstacles.size() < best.size()) {
          best = obstacles;
          through = it.key();
        }
      }
    }
    List<Obstacle> more = new ArrayList<>(best);
    if (!delegateIn.belongsTo(holder.account())) {
      more.add(new Obstacle.DoesNotBelong(holder.account()));
    }
    Route joined = with(route, more);
    return new Route(
        joined.source(),
        joined.subjectPath(),
        joined.otherPaths(),
        joined.gifts(),
        joined.coverage(),
        through,
        joined.obstacles());
  }

  private List<Obstacle> against(Delegation it) {
    List<Obstacle> obstacles = new ArrayList<>();
    if (!it.window().holdsAt(question.at())) {
      obstacles.add(new Obstacle.OutsideWindow(it.window()));
    }
    Permission permission = catalogue.permissions().get(question.permission());
    if (permission == null || !permission.mayBeDelegated()) {
      obstacles.add(new Obstacle.OutsideDelegation(it.key(), Obstacle.Why.NOT_DELEGABLE));
    }
    if (it.limit() instanceof Delegation.Limit.Listed(List<Gives> listed)
        && listed.stream()
            .map(gives -> gifts.allowing(gives, question.permission(), true))
            .noneMatch(path -> path.exists() && path.obstacles().isEmpty())) {
      obstacles.add(new Obstacle.OutsideDelegation(it.key(), Obstacle.Why.LIMIT));
    }
    PointScope point = new PointScope(catalogue, holder, question.resource());
    if (!point.covers(it.scope())) {
      obstacles.add(new Obstacle.OutsideDelegation(it.key(), Obstacle.Why.SCOPE));
    }
    return obstacles;
  }
}
