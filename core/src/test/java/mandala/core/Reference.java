package mandala.core;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Expectation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Role;
import mandala.core.model.Rule;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;

/**
 * The page read aloud: the evaluation in the plainest way, by lists and definitions, slow and
 * obvious. It shares no code with the engine or the routes; section numbers are those of
 * access-model.md.
 */
final class Reference {

  private final AccessModel model;
  private final List<Permission> permissions;
  private final List<PermissionSet> sets;
  private final List<Role> roles;

  /** A resource as section 1 describes it, listed or implicit. */
  private record Place(
      String key,
      String type,
      String account,
      String parent,
      String owner,
      String unit,
      Map<String, String> labels,
      boolean sealed) {}

  private final Map<String, Place> places = new HashMap<>();

  Reference(AccessModel model) {
    this.model = model;
    permissions = new ArrayList<>(model.permissions());
    permissions.addAll(Supplied.permissions(model.resourceTypes()));
    sets = new ArrayList<>(model.permissionSets());
    sets.addAll(Supplied.permissionSets());
    roles = new ArrayList<>(model.roles());
    roles.addAll(Supplied.roles());
    for (Account a : model.accounts()) {
      String parent = a.parent() == null ? null : "account:" + a.parent();
      put(
          new Place(
              "account:" + a.key(),
              "account",
              a.key().value(),
              parent,
              null,
              null,
              Map.of(),
              a.sealed()));
    }
    for (Unit u : model.units()) {
      String parent = u.parent() == null ? "account:" + u.account() : "unit:" + u.parent();
      put(
          new Place(
              "unit:" + u.key(),
              "unit",
              u.account().value(),
              parent,
              null,
              u.key().value(),
              Map.of(),
              false));
    }
    for (Group g : model.groups()) {
      put(
          new Place(
              "group:" + g.key(),
              "group",
              g.account().value(),
              "account:" + g.account(),
              null,
              null,
              Map.of(),
              false));
    }
    for (Resource r : model.resources()) {
      String parent = r.parent() == null ? "account:" + r.account() : r.parent().value();
      put(
          new Place(
              r.key().value(),
              r.type().value(),
              r.account().value(),
              parent,
              r.owner() == null ? null : r.owner().value(),
              r.unit() == null ? null : r.unit().value(),
              r.labels(),
              r.sealed()));
    }
  }

  private void put(Place place) {
    places.put(place.key(), place);
  }

  // ---- section 1

  /** Whether a place is another one, or lies below it, sealed or not. */
  boolean isWithin(String place, String top) {
    return upward(places.get(place)).stream().anyMatch(it -> it.key().equals(top));
  }

  private List<Place> upward(Place r) {
    List<Place> path = new ArrayList<>();
    for (Place at = r; at != null; at = at.parent() == null ? null : places.get(at.parent())) {
      path.add(at);
    }
    return path;
  }

  private String effectiveUnit(Place r) {
    return upward(r).stream().map(Place::unit).filter(u -> u != null).findFirst().orElse(null);
  }

  private Map<String, String> effectiveLabels(Place r) {
    Map<String, String> labels = new HashMap<>();
    for (Place at : upward(r).reversed()) {
      labels.putAll(at.labels());
    }
    return labels;
  }

  private Account account(String key) {
    return model.accounts().stream()
        .filter(a -> a.key().value().equals(key))
        .findFirst()
        .orElseThrow();
  }

  private Principal principal(String key) {
    return model.principals().stream()
        .filter(p -> p.key().value().equals(key))
        .findFirst()
        .orElse(null);
  }

  Permission permission(PermissionKey key) {
    return permissions.stream().filter(p -> p.key().equals(key)).findFirst().orElse(null);
  }

  private boolean atOrBelow(String account, String top) {
    for (String at = account; at != null; ) {
      if (at.equals(top)) {
        return true;
      }
      AccountKey up = account(at).parent();
      at = up == null ? null : up.value();
    }
    return false;
  }

  private boolean unitAtOrBelow(String unit, String top) {
    for (String at = unit; at != null; ) {
      if (at.equals(top)) {
        return true;
      }
      String here = at;
      UnitKey up =
          model.units().stream()
              .filter(u -> u.key().value().equals(here))
              .findFirst()
              .orElseThrow()
              .parent();
      at = up == null ? null : up.value();
    }
    return false;
  }

  // ---- section 2

  private boolean live(String account) {
    Account a = account(account);
    return !a.suspended() && (a.parent() == null || live(a.parent().value()));
  }

  /** Null stands for anonymous. */
  private boolean active(Principal u, Instant t) {
    return u == null
        || (u.status() == Principal.Status.ACTIVE
            && u.window().holdsAt(t)
            && live(u.account().value()));
  }

  private boolean guestCovers(Principal u, String account, Instant t) {
    for (Guest g : model.guests()) {
      if (g.principal().equals(u.key()) && g.window().holdsAt(t)) {
        boolean itself = g.account().value().equals(account);
        if (itself || (g.withSubaccounts() && atOrBelow(account, g.account().value()))) {
          return true;
        }
      }
    }
    return false;
  }

  private boolean belongs(Principal u, String account, Instant t) {
    return u != null && (atOrBelow(account, u.account().value()) || guestCovers(u, account, t));
  }

  private boolean contains(Group g, Principal u, Instant t) {
    for (Group.Member member : g.members()) {
      if (member instanceof Group.Member.OfPrincipal it && it.key().equals(u.key())) {
        return true;
      }
      if (member instanceof Group.Member.OfGroup it) {
        Group inner =
            model.groups().stream().filter(x -> x.key().equals(it.key())).findFirst().orElseThrow();
        if (!inner.retired() && contains(inner, u, t)) {
          return true;
        }
      }
    }
    boolean tested = u.account().equals(g.account()) || guestCovers(u, g.account().value(), t);
    return g.rule() != null && tested && satisfies(g.rule(), u);
  }

  private boolean satisfies(Rule rule, Principal u) {
    boolean all = true;
    boolean any = false;
    for (Rule.Test test : rule.tests()) {
      boolean holds = holds(test, u);
      all &= holds;
      any |= holds;
    }
    return rule.match() == Rule.Match.ALL ? all : any;
  }

  private boolean holds(Rule.Test test, Principal u) {
    String value =
        switch (test.attribute()) {
          case "kind" -> u.kind() == Principal.Kind.PERSON ? "person" : "service";
          case "unit" -> u.unit() == null ? null : u.unit().value();
          case "manager" -> u.manager() == null ? null : u.manager().value();
          case "account" -> u.account().value();
          case "status" ->
              switch (u.status()) {
                case ACTIVE -> "active";
                case INVITED -> "invited";
                case SUSPENDED -> "suspended";
                case LEFT -> "left";
              };
          default -> u.attributes().get(test.attribute());
        };
    if (value == null) {
      return test.op() == Rule.Op.ABSENT;
    }
    return switch (test.op()) {
      case IS -> value.equals(test.values().get(0));
      case IS_NOT -> !value.equals(test.values().get(0));
      case IN -> test.values().contains(value);
      case STARTS_WITH -> value.startsWith(test.values().get(0));
      case PRESENT -> true;
      case ABSENT -> false;
      case UNDER -> unitAtOrBelow(value, test.values().get(0));
    };
  }

  private boolean isSubject(Subject s, Principal u, Instant t) {
    if (s == Subject.Public.ANYONE) {
      return true;
    }
    if (s == Subject.Public.ANONYMOUS || s == Subject.Public.SIGNED_IN) {
      return (s == Subject.Public.ANONYMOUS) == (u == null);
    }
    if (u == null) {
      return false;
    }
    return switch (s) {
      case Subject.OfPrincipal it -> it.key().equals(u.key());
      case Subject.OfGroup it -> {
        Group g =
            model.groups().stream().filter(x -> x.key().equals(it.key())).findFirst().orElseThrow();
        yield !g.retired() && contains(g, u, t);
      }
      case Subject.OfPattern it -> it.key().equals(u.pattern());
      case Subject.OfAccount it ->
          it.key().equals(u.account()) || guestCovers(u, it.key().value(), t);
      case Subject.Public _ -> throw new AssertionError("handled above");
    };
  }

  // ---- section 3

  private Set<PermissionKey> implied(PermissionKey p) {
    Set<PermissionKey> result = new HashSet<>(Set.of(p));
    permission(p).implies().forEach(q -> result.addAll(implied(q)));
    return result;
  }

  /** Whether something given allows p, with or without a second factor. */
  private boolean allows(Gives gives, PermissionKey p, boolean mfa) {
    return switch (gives) {
      case Gives.OfPermission it -> implied(it.key()).contains(p);
      case Gives.OfSet it -> setAllows(it.key(), p);
      case Gives.OfRole it -> {
        Role role = roles.stream().filter(r -> r.key().equals(it.key())).findFirst().orElseThrow();
        yield !role.retired()
            && (mfa || !role.requiresMfa())
            && (role.sets().stream().anyMatch(s -> setAllows(s, p))
                || role.inherits().stream().anyMatch(j -> allows(new Gives.OfRole(j), p, mfa)));
      }
    };
  }

  private PermissionSet set(PermissionSetKey key) {
    return sets.stream().filter(s -> s.key().equals(key)).findFirst().orElseThrow();
  }

  private boolean setAllows(PermissionSetKey key, PermissionKey p) {
    return set(key).allow().stream().anyMatch(q -> implied(q).contains(p))
        || set(key).includes().stream().anyMatch(s -> setAllows(s, p));
  }

  /** Denying q also denies all that imply q. */
  private boolean setDenies(PermissionSetKey key, PermissionKey p) {
    return set(key).deny().stream().anyMatch(q -> implied(p).contains(q))
        || set(key).includes().stream().anyMatch(s -> setDenies(s, p));
  }

  private boolean denies(Gives gives, PermissionKey p) {
    return switch (gives) {
      case Gives.OfPermission _ -> false;
      case Gives.OfSet it -> setDenies(it.key(), p);
      case Gives.OfRole it -> {
        Role role = roles.stream().filter(r -> r.key().equals(it.key())).findFirst().orElseThrow();
        yield !role.retired()
            && (role.sets().stream().anyMatch(s -> setDenies(s, p))
                || role.inherits().stream().anyMatch(j -> denies(new Gives.OfRole(j), p)));
      }
    };
  }

  // ---- section 4

  private boolean covers(Term term, Place r, Principal u, boolean withViewReach) {
    return switch (term) {
      case Term.Everything _ -> true;
      case Term.InAccount it -> r.account().equals(it.account().value());
      case Term.OwnAccount _ -> u != null && r.account().equals(u.account().value());
      case Term.Tree it -> upward(r).stream().anyMatch(x -> x.key().equals(it.resource().value()));
      case Term.Only it -> r.key().equals(it.resource().value());
      case Term.InCollection it -> {
        ResourceCollection c =
            model.collections().stream()
                .filter(x -> x.key().equals(it.collection()))
                .findFirst()
                .orElseThrow();
        yield c.members().stream()
            .anyMatch(m -> upward(r).stream().anyMatch(x -> x.key().equals(m.value())));
      }
      case Term.OfType it -> r.type().equals(it.type().value());
      case Term.InUnit it ->
          effectiveUnit(r) != null && unitAtOrBelow(effectiveUnit(r), it.unit().value());
      case Term.OwnUnit _ -> {
        String unit = effectiveUnit(r);
        boolean own =
            u != null && unit != null && u.unit() != null && unitAtOrBelow(unit, u.unit().value());
        yield own
            || (u != null
                && unit != null
                && u.reach().stream()
                    .filter(x -> withViewReach || x.level() == Principal.Level.FULL)
                    .anyMatch(x -> unitAtOrBelow(unit, x.unit().value())));
      }
      case Term.OwnedBy it ->
          switch (it.owner()) {
            case NONE -> r.owner() == null;
            case SELF -> u != null && u.key().value().equals(r.owner());
            case TEAM -> u != null && r.owner() != null && reportsTo(r.owner(), u);
          };
      case Term.Labelled it ->
          it.labels().entrySet().stream()
              .allMatch(e -> e.getValue().equals(effectiveLabels(r).get(e.getKey())));
    };
  }

  private boolean reportsTo(String who, Principal u) {
    if (who.equals(u.key().value())) {
      return true;
    }
    PrincipalKey manager = principal(who).manager();
    return manager != null && reportsTo(manager.value(), u);
  }

  private boolean atHome(Clause clause, Subject subject, Place r) {
    boolean relative =
        clause.terms().stream()
            .anyMatch(x ->
                x instanceof Term.OwnAccount
                    || x instanceof Term.OwnUnit
                    || (x instanceof Term.OwnedBy o && o.owner() != Term.Owner.NONE));
    String home =
        switch (subject) {
          case Subject.OfGroup it ->
              model.groups().stream()
                  .filter(g -> g.key().equals(it.key()))
                  .findFirst()
                  .orElseThrow()
                  .account()
                  .value();
          case Subject.OfAccount it -> it.key().value();
          case Subject.OfPattern it -> {
            Pattern pattern =
                model.patterns().stream()
                    .filter(x -> x.key().equals(it.key()))
                    .findFirst()
                    .orElseThrow();
            yield pattern.account() == null ? null : pattern.account().value();
          }
          case Subject.OfPrincipal _, Subject.Public _ -> null;
        };
    return !relative || home == null || atOrBelow(r.account(), home);
  }

  private boolean passesSeals(Clause clause, Place r, Principal u, boolean crosses) {
    List<Place> path = upward(r);
    if (crosses || path.stream().noneMatch(Place::sealed)) {
      return true;
    }
    for (Term term : clause.terms()) {
      if (term instanceof Term.OwnedBy o && o.owner() == Term.Owner.SELF) {
        return true;
      }
      String named =
          switch (term) {
            case Term.Tree it -> it.resource().value();
            case Term.Only it -> it.resource().value();
            case Term.InAccount it -> "account:" + it.account();
            case Term.OwnAccount _ -> u == null ? null : "account:" + u.account();
            case Term.InUnit _, Term.OwnUnit _ -> "account:" + r.account();
            default -> null;
          };
      for (Place at : path) {
        if (at.key().equals(named)) {
          return true;
        }
        if (at.sealed()) {
          break;
        }
      }
    }
    return false;
  }

  private boolean coversForAllow(
      List<Clause> scope,
      Subject subject,
      Place r,
      Principal u,
      boolean viewReach,
      boolean crosses) {
    return scope.stream()
        .anyMatch(c ->
            c.terms().stream().allMatch(x -> covers(x, r, u, viewReach))
                && atHome(c, subject, r)
                && passesSeals(c, r, u, crosses));
  }

  private boolean coversForDeny(List<Clause> scope, Subject subject, Place r, Principal u) {
    return scope.stream()
        .anyMatch(
            c -> c.terms().stream().allMatch(x -> covers(x, r, u, true)) && atHome(c, subject, r));
  }

  // ---- section 5

  private boolean applies(Permission p, Place r) {
    return p.on().stream().anyMatch(type -> type.value().equals(r.type()));
  }

  private boolean allowed(
      Principal u, Permission p, Place r, Instant t, boolean mfa, boolean justInTime) {
    return givers(u, p, r, t, mfa, justInTime).findAny().isPresent();
  }

  private Stream<Key> givers(
      Principal u, Permission p, Place r, Instant t, boolean mfa, boolean justInTime) {
    if (!applies(p, r) || !live(r.account())) {
      return Stream.empty();
    }
    boolean view = p.accessClass() == AccessClass.VIEW;
    Stream<Key> assignments =
        model.assignments().stream()
            .filter(a ->
                a.window().holdsAt(t)
                    && isSubject(a.subject(), u, t)
                    && (a.mode() == Assignment.Mode.STANDING || (justInTime && activated(u, a, t))))
            .filter(a -> a.subject() instanceof Subject.Public || belongs(u, r.account(), t))
            .filter(a -> a.effect() == Assignment.Effect.ALLOW && allows(a.gives(), p.key(), mfa))
            .filter(a ->
                coversForAllow(a.scope(), a.subject(), r, u, view, a.crossesSeals())
                    || (view
                        && coversForAllow(
                            a.viewScope(), a.subject(), r, u, true, a.crossesSeals())))
            .map(Assignment::key);
    Stream<Key> bridges =
        model.bridges().stream()
            .filter(b -> crosses(b, u, t) && atOrBelow(r.account(), b.account().value()))
            .filter(b -> allows(b.gives(), p.key(), mfa))
            .filter(b -> coversForAllow(b.scope(), Subject.Public.ANYONE, r, u, view, false))
            .map(Bridge::key);
    return Stream.concat(assignments, bridges);
  }

  /** The assignments and bridges that allow what is asked about, denies and gates aside. */
  Set<Key> givers(Question question) {
    Principal u = principal(question.principal().value());
    return givers(
            u,
            permission(question.permission()),
            places.get(question.resource().value()),
            question.at(),
            question.mfa() && enrolled(u),
            true)
        .collect(Collectors.toSet());
  }

  private boolean activated(Principal u, Assignment a, Instant t) {
    return u != null
        && model.activations().stream()
            .anyMatch(x ->
                x.principal().equals(u.key())
                    && x.assignment().equals(a.key())
                    && x.window().holdsAt(t));
  }

  private boolean crosses(Bridge b, Principal u, Instant t) {
    Group g =
        model.groups().stream().filter(x -> x.key().equals(b.group())).findFirst().orElseThrow();
    return u != null
        && b.status() == Bridge.Status.ACCEPTED
        && b.window().holdsAt(t)
        && !g.retired()
        && contains(g, u, t)
        && live(g.account().value())
        && belongs(u, g.account().value(), t);
  }

  private boolean denied(Principal u, Permission p, Place r, Instant t) {
    if (!applies(p, r)) {
      return false;
    }
    for (Assignment a : model.assignments()) {
      boolean denies =
          a.effect() == Assignment.Effect.DENY
              ? implied(p.key()).contains(((Gives.OfPermission) a.gives()).key())
              : denies(a.gives(), p.key());
      if (denies
          && a.window().holdsAt(t)
          && isSubject(a.subject(), u, t)
          && coversForDeny(a.scope(), a.subject(), r, u)) {
        return true;
      }
    }
    for (Bridge b : model.bridges()) {
      if (crosses(b, u, t)
          && atOrBelow(r.account(), b.account().value())
          && denies(b.gives(), p.key())
          && coversForDeny(b.scope(), Subject.Public.ANYONE, r, u)) {
        return true;
      }
    }
    return false;
  }

  // ---- section 6

  /** Who is granted what, so that gates can be read in it. */
  @FunctionalInterface
  private interface Granted {
    boolean holds(Permission p, Place r);
  }

  private Place gatePlace(Permission gate, Place r) {
    for (Place x : upward(r)) {
      if (!x.account().equals(r.account())) {
        return null;
      }
      if (applies(gate, x)) {
        return x;
      }
    }
    return null;
  }

  private boolean usable(Granted granted, Permission p, Place r) {
    if (!granted.holds(p, r)) {
      return false;
    }
    for (PermissionKey each : implied(p.key())) {
      for (PermissionKey required : permission(each).requires()) {
        Permission q = permission(required);
        Place at = gatePlace(q, r);
        if (at == null || !usable(granted, q, at)) {
          return false;
        }
      }
    }
    return true;
  }

  /** What comes with a right: pairs of a permission and a resource (section 12). */
  Set<List<String>> comesWith(String permission, String resource) {
    Permission p = permission(new PermissionKey(permission));
    Place r = places.get(resource);
    Set<List<String>> all = new HashSet<>();
    for (PermissionKey each : implied(p.key())) {
      if (!each.equals(p.key()) && applies(permission(each), r)) {
        all.add(List.of(each.value(), resource));
      }
      for (PermissionKey gate : permission(each).requires()) {
        Place at = gatePlace(permission(gate), r);
        if (at != null) {
          all.add(List.of(gate.value(), at.key()));
        }
      }
    }
    return all;
  }

  /** Whether an expectation demands a right of somebody (section 12). */
  boolean demands(Expectation it, String who, String permission, String resource, Instant t) {
    Principal u = principal(who);
    Place r = places.get(resource);
    return it.form() == Expectation.Form.CAN
        && it.subjects().stream().anyMatch(s -> isSubject(s, u, t))
        && it.permissions().contains(new PermissionKey(permission))
        && applies(permission(new PermissionKey(permission)), r)
        && it.scope().stream()
            .anyMatch(c -> c.terms().stream().allMatch(x -> covers(x, r, null, true)));
  }

  /** Whether a permission applies to a resource (section 3). */
  boolean applies(String permission, String resource) {
    return applies(permission(new PermissionKey(permission)), places.get(resource));
  }

  /** The permissions of the model, supplied ones too. */
  List<String> permissionKeys() {
    return permissions.stream().map(p -> p.key().value()).toList();
  }

  /** The resources of the model, implicit ones too. */
  Set<String> placeKeys() {
    return places.keySet();
  }

  private static boolean enrolled(Principal u) {
    return u != null && u.kind() == Principal.Kind.PERSON && u.mfa();
  }

  Verdict verdict(Question question) {
    boolean nobody = question.principal().equals(PrincipalKey.ANONYMOUS);
    Principal u = principal(question.principal().value());
    Permission p = permission(question.permission());
    Place r = places.get(question.resource().value());
    Instant t = question.at();
    if (p == null || r == null || (u == null && !nobody)) {
      return Verdict.ERROR;
    }
    if (question.actingFor() != null) {
      return actingFor(question, u, p, r);
    }
    if (!active(u, t)) {
      return Verdict.INACTIVE;
    }
    if (!applies(p, r)) {
      return Verdict.NOT_APPLICABLE;
    }
    boolean mfa = question.mfa() && enrolled(u);
    Granted granted = (q, x) -> allowed(u, q, x, t, mfa, true) && !denied(u, q, x, t);
    if (denied(u, p, r, t)) {
      return Verdict.DENIED;
    }
    return usable(granted, p, r)
        ? Verdict.ALLOWED
        : granted.holds(p, r) ? Verdict.BLOCKED : Verdict.NONE;
  }

  // ---- section 7

  private Verdict actingFor(Question question, Principal d, Permission p, Place r) {
    Instant t = question.at();
    Principal whom = principal(question.actingFor().value());
    if (d == null || whom == null || d.equals(whom)) {
      return Verdict.ERROR;
    }
    if (!active(d, t) || !active(whom, t)) {
      return Verdict.INACTIVE;
    }
    List<Delegation> inForce =
        model.delegations().stream()
            .filter(x ->
                x.principal().equals(whom.key())
                    && x.delegate().equals(d.key())
                    && x.window().holdsAt(t))
            .toList();
    if (inForce.isEmpty() || !belongs(d, whom.account().value(), t)) {
      return Verdict.NO_DELEGATION;
    }
    if (!applies(p, r)) {
      return Verdict.NOT_APPLICABLE;
    }
    boolean mfa = question.mfa() && enrolled(d) && enrolled(whom);
    Granted granted =
        (q, x) ->
            allowed(whom, q, x, t, mfa, false) && !denied(whom, q, x, t) && !denied(d, q, x, t);
    if (denied(whom, p, r, t) || denied(d, p, r, t)) {
      return Verdict.DENIED;
    }
    if (inForce.stream().noneMatch(x -> lets(x, p, r, whom))) {
      return Verdict.NONE;
    }
    return usable(granted, p, r)
        ? Verdict.ALLOWED
        : granted.holds(p, r) ? Verdict.BLOCKED : Verdict.NONE;
  }

  private boolean lets(Delegation it, Permission p, Place r, Principal whom) {
    boolean delegable =
        p.delegable() != null
            ? p.delegable()
            : p.accessClass() != AccessClass.ADMINISTER
                && p.risk() != Permission.Risk.HIGH
                && p.risk() != Permission.Risk.CRITICAL;
    boolean within =
        switch (it.limit()) {
          case Delegation.Limit.All _ -> true;
          case Delegation.Limit.Listed listed ->
              listed.gives().stream().anyMatch(g -> allows(g, p.key(), true));
        };
    return delegable
        && within
        && it.scope().stream()
            .anyMatch(c -> c.terms().stream().allMatch(x -> covers(x, r, whom, true)));
  }
}
