package mandala.core.change;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/** Things of the model with one field rewritten: what a change alters mostly is one field. */
public final class Rewritten {

  private Rewritten() {}

  /** {@return a group without a member} */
  public static Group without(Group it, Group.Member member) {
    return members(it, it.members().stream().filter(each -> !each.equals(member)).toList());
  }

  /** {@return a group with one more listed member} */
  public static Group with(Group it, Group.Member member) {
    List<Group.Member> members = new ArrayList<>(it.members());
    members.add(member);
    return members(it, members);
  }

  /** {@return a group, retired} */
  public static Group retired(Group it) {
    return new Group(
        it.key(), it.about(), it.account(), true, it.members(), it.rule(), it.owners());
  }

  /** {@return a group with other listed members} */
  public static Group members(Group it, List<Group.Member> members) {
    return new Group(
        it.key(), it.about(), it.account(), it.retired(), members, it.rule(), it.owners());
  }

  /** {@return a group without a rule} */
  public static Group withoutRule(Group it) {
    return new Group(
        it.key(), it.about(), it.account(), it.retired(), it.members(), null, it.owners());
  }

  /** {@return a group that somebody no longer owns} */
  public static Group withoutOwner(Group it, PrincipalKey owner) {
    return owners(it, without(it.owners(), owner));
  }

  /** {@return a group, not retired} */
  public static Group active(Group it) {
    return new Group(
        it.key(), it.about(), it.account(), false, it.members(), it.rule(), it.owners());
  }

  private static List<PrincipalKey> without(List<PrincipalKey> all, PrincipalKey one) {
    return all.stream().filter(each -> !each.equals(one)).toList();
  }

  /** {@return a group with other owners} */
  public static Group owners(Group it, List<PrincipalKey> owners) {
    return new Group(
        it.key(), it.about(), it.account(), it.retired(), it.members(), it.rule(), owners);
  }

  /** {@return a pattern with other owners} */
  public static Pattern owners(Pattern it, List<PrincipalKey> owners) {
    return new Pattern(it.key(), it.about(), it.account(), owners);
  }

  /** {@return a role with other owners} */
  public static Role owners(Role it, List<PrincipalKey> owners) {
    return role(it, it.basedOn(), it.retired(), it.sets(), it.inherits(), owners);
  }

  /** {@return a guest membership for which another person answers, or nobody} */
  public static Guest sponsor(Guest it, @Nullable PrincipalKey sponsor) {
    return new Guest(
        it.about(), it.principal(), it.account(), it.withSubaccounts(), it.window(), sponsor);
  }

  /** {@return an expectation of other subjects} */
  public static Expectation subjects(Expectation it, List<Subject> subjects) {
    return new Expectation(
        it.key(),
        it.about(),
        it.account(),
        it.form(),
        subjects,
        it.permissions(),
        it.scope(),
        it.min(),
        it.max());
  }

  /** {@return the same assignment to another subject, under another key} */
  public static Assignment subject(Assignment it, AssignmentKey key, Subject subject) {
    return new Assignment(
        key,
        it.about(),
        subject,
        it.gives(),
        it.effect(),
        it.scope(),
        it.viewScope(),
        it.window(),
        it.mode(),
        it.crossesSeals());
  }

  /** {@return a principal for which another person answers, or nobody} */
  public static Principal sponsor(Principal it, @Nullable PrincipalKey sponsor) {
    return new Principal(
        it.key(),
        it.about(),
        it.kind(),
        it.account(),
        it.unit(),
        it.manager(),
        it.status(),
        it.window(),
        it.mfa(),
        it.attributes(),
        it.pattern(),
        it.reach(),
        it.email(),
        it.lastSeen(),
        sponsor);
  }

  /** {@return a principal that reaches other units} */
  public static Principal reach(Principal it, List<Principal.Reach> reach) {
    return principal(it, it.unit(), it.manager(), it.attributes(), it.pattern(), reach);
  }

  /** {@return a principal with another pattern, or none} */
  public static Principal pattern(Principal it, @Nullable PatternKey pattern) {
    return principal(it, it.unit(), it.manager(), it.attributes(), pattern, it.reach());
  }

  /** {@return a principal that reaches one more unit in full} */
  public static Principal reaching(Principal it, UnitKey unit) {
    List<Principal.Reach> reach = new ArrayList<>(it.reach());
    reach.removeIf(each -> each.unit().equals(unit));
    reach.add(new Principal.Reach(unit, Principal.Level.FULL));
    return reach(it, reach);
  }

  /** {@return a principal that does not reach a unit beyond its own} */
  public static Principal withoutReach(Principal it, UnitKey unit) {
    return reach(it, it.reach().stream().filter(each -> !each.unit().equals(unit)).toList());
  }

  /** {@return a principal of another unit, under another manager, with other attributes} */
  public static Principal facts(
      Principal it,
      @Nullable UnitKey unit,
      @Nullable PrincipalKey manager,
      Map<String, String> attributes) {
    return principal(it, unit, manager, attributes, it.pattern(), it.reach());
  }

  /** {@return a principal at home in another account, of another unit there, under nobody} */
  public static Principal home(Principal it, AccountKey account, @Nullable UnitKey unit) {
    return new Principal(
        it.key(),
        it.about(),
        it.kind(),
        account,
        unit,
        null,
        it.status(),
        it.window(),
        it.mfa(),
        it.attributes(),
        it.pattern(),
        it.reach(),
        it.email(),
        it.lastSeen(),
        it.sponsor());
  }

  /** {@return a principal of another status} */
  public static Principal status(Principal it, Principal.Status status) {
    return principal(
        it,
        status,
        it.window(),
        it.unit(),
        it.manager(),
        it.attributes(),
        it.pattern(),
        it.reach());
  }

  /** {@return a principal that is active without end} */
  public static Principal active(Principal it) {
    return principal(
        it,
        Principal.Status.ACTIVE,
        Window.ALWAYS,
        it.unit(),
        it.manager(),
        it.attributes(),
        it.pattern(),
        it.reach());
  }

  private static Principal principal(
      Principal it,
      @Nullable UnitKey unit,
      @Nullable PrincipalKey manager,
      Map<String, String> attributes,
      @Nullable PatternKey pattern,
      List<Principal.Reach> reach) {
    return principal(it, it.status(), it.window(), unit, manager, attributes, pattern, reach);
  }

  private static Principal principal(
      Principal it,
      Principal.Status status,
      Window window,
      @Nullable UnitKey unit,
      @Nullable PrincipalKey manager,
      Map<String, String> attributes,
      @Nullable PatternKey pattern,
      List<Principal.Reach> reach) {
    return new Principal(
        it.key(),
        it.about(),
        it.kind(),
        it.account(),
        unit,
        manager,
        status,
        window,
        it.mfa(),
        attributes,
        pattern,
        reach,
        it.email(),
        it.lastSeen(),
        it.sponsor());
  }

  /** {@return an assignment in another window} */
  public static Assignment window(Assignment it, Window window) {
    return assignment(it, it.gives(), window, it.crossesSeals());
  }

  /** {@return an assignment that crosses seals} */
  public static Assignment crossing(Assignment it) {
    return assignment(it, it.gives(), it.window(), true);
  }

  /** {@return an assignment that crosses no seals} */
  public static Assignment notCrossing(Assignment it) {
    return assignment(it, it.gives(), it.window(), false);
  }

  /** {@return an assignment with other scopes} */
  public static Assignment scopes(Assignment it, List<Clause> scope, List<Clause> viewScope) {
    return new Assignment(
        it.key(),
        it.about(),
        it.subject(),
        it.gives(),
        it.effect(),
        scope,
        viewScope,
        it.window(),
        it.mode(),
        it.crossesSeals());
  }

  /** {@return an assignment of something else} */
  public static Assignment gives(Assignment it, Gives gives) {
    return assignment(it, gives, it.window(), it.crossesSeals());
  }

  private static Assignment assignment(
      Assignment it, Gives gives, Window window, boolean crossesSeals) {
    return new Assignment(
        it.key(),
        it.about(),
        it.subject(),
        gives,
        it.effect(),
        it.scope(),
        it.viewScope(),
        window,
        it.mode(),
        crossesSeals);
  }

  /** {@return a bridge in another window} */
  public static Bridge window(Bridge it, Window window) {
    return bridge(it, it.gives(), window, it.status());
  }

  /** {@return a delegation in another window} */
  public static Delegation window(Delegation it, Window window) {
    return new Delegation(
        it.key(), it.about(), it.principal(), it.delegate(), it.limit(), it.scope(), window);
  }

  /** {@return a guest membership in another window} */
  public static Guest window(Guest it, Window window) {
    return new Guest(
        it.about(), it.principal(), it.account(), it.withSubaccounts(), window, it.sponsor());
  }

  /** {@return a bridge of another status} */
  public static Bridge status(Bridge it, Bridge.Status status) {
    return bridge(it, it.gives(), it.window(), status);
  }

  /** {@return a bridge that gives something else} */
  public static Bridge gives(Bridge it, Gives gives) {
    return bridge(it, gives, it.window(), it.status());
  }

  private static Bridge bridge(Bridge it, Gives gives, Window window, Bridge.Status status) {
    return new Bridge(
        it.key(), it.about(), it.account(), it.group(), gives, it.scope(), window, status);
  }

  /** {@return a role, not retired} */
  public static Role active(Role it) {
    return role(it, it.basedOn(), false, it.sets(), it.inherits());
  }

  /** {@return a role, retired} */
  public static Role retired(Role it) {
    return role(it, it.basedOn(), true, it.sets(), it.inherits());
  }

  /** {@return a role without one of its sets} */
  public static Role without(Role it, PermissionSetKey set) {
    return content(
        it, it.sets().stream().filter(each -> !each.equals(set)).toList(), it.inherits());
  }

  /** {@return a role with one more set} */
  public static Role with(Role it, PermissionSetKey set) {
    List<PermissionSetKey> sets = new ArrayList<>(it.sets());
    sets.add(set);
    return content(it, sets, it.inherits());
  }

  /** {@return a role of other sets and juniors} */
  public static Role content(Role it, List<PermissionSetKey> sets, List<RoleKey> inherits) {
    return role(it, it.basedOn(), it.retired(), sets, inherits);
  }

  /** {@return a role that inherits others and was made after another, or after none} */
  public static Role after(Role it, @Nullable RoleKey basedOn, List<RoleKey> inherits) {
    return role(it, basedOn, it.retired(), it.sets(), inherits);
  }

  /** {@return a role that somebody no longer owns} */
  public static Role withoutOwner(Role it, PrincipalKey owner) {
    return owners(it, without(it.owners(), owner));
  }

  private static Role role(
      Role it,
      @Nullable RoleKey basedOn,
      boolean retired,
      List<PermissionSetKey> sets,
      List<RoleKey> inherits) {
    return role(it, basedOn, retired, sets, inherits, it.owners());
  }

  private static Role role(
      Role it,
      @Nullable RoleKey basedOn,
      boolean retired,
      List<PermissionSetKey> sets,
      List<RoleKey> inherits,
      List<PrincipalKey> owners) {
    return new Role(
        it.key(),
        it.about(),
        it.account(),
        it.code(),
        basedOn,
        retired,
        sets,
        inherits,
        it.requiresMfa(),
        it.prerequisites(),
        it.minHolders(),
        it.maxHolders(),
        owners);
  }

  /** {@return a set that no longer allows a permission} */
  public static PermissionSet without(PermissionSet it, PermissionKey permission) {
    return content(
        it,
        it.allow().stream().filter(each -> !each.equals(permission)).toList(),
        it.deny(),
        it.includes());
  }

  /** {@return a set that allows one more permission} */
  public static PermissionSet with(PermissionSet it, PermissionKey permission) {
    List<PermissionKey> allow = new ArrayList<>(it.allow());
    allow.add(permission);
    return content(it, allow, it.deny(), it.includes());
  }

  /** {@return a set that denies none of some permissions} */
  public static PermissionSet denyingNone(PermissionSet it, Set<PermissionKey> permissions) {
    return content(
        it,
        it.allow(),
        it.deny().stream().filter(each -> !permissions.contains(each)).toList(),
        it.includes());
  }

  /** {@return a set of other entries} */
  public static PermissionSet content(
      PermissionSet it,
      List<PermissionKey> allow,
      List<PermissionKey> deny,
      List<PermissionSetKey> includes) {
    return new PermissionSet(it.key(), it.about(), it.account(), allow, deny, includes);
  }

  /** {@return a permission that implies one more} */
  public static Permission implying(Permission it, PermissionKey implied) {
    List<PermissionKey> implies = new ArrayList<>(it.implies());
    implies.add(implied);
    return permission(it, implies, it.requires());
  }

  /** {@return a permission that a gate is no longer required for} */
  public static Permission without(Permission it, PermissionKey gate) {
    return permission(
        it, it.implies(), it.requires().stream().filter(each -> !each.equals(gate)).toList());
  }

  private static Permission permission(
      Permission it, List<PermissionKey> implies, List<PermissionKey> requires) {
    return new Permission(
        it.key(),
        it.about(),
        it.account(),
        it.on(),
        it.accessClass(),
        it.risk(),
        implies,
        requires,
        it.delegable());
  }

  /** {@return a collection with one more member} */
  public static ResourceCollection with(ResourceCollection it, ResourceKey member) {
    List<ResourceKey> members = new ArrayList<>(it.members());
    members.add(member);
    return new ResourceCollection(it.key(), it.about(), it.account(), members);
  }

  /** {@return a resource, not sealed} */
  public static Resource unsealed(Resource it) {
    return sealed(it, false);
  }

  /** {@return a resource, sealed or not} */
  public static Resource sealed(Resource it, boolean sealed) {
    return resource(it, it.owner(), sealed);
  }

  /** {@return a resource of another owner, or of none} */
  public static Resource owner(Resource it, @Nullable PrincipalKey owner) {
    return resource(it, owner, it.sealed());
  }

  private static Resource resource(Resource it, @Nullable PrincipalKey owner, boolean sealed) {
    return new Resource(
        it.key(),
        it.about(),
        it.type(),
        it.account(),
        it.parent(),
        owner,
        it.unit(),
        it.labels(),
        sealed);
  }

  /** {@return an exclusion from which somebody is no longer exempt} */
  public static Exclusion withoutExemption(Exclusion it, PrincipalKey principal) {
    return new Exclusion(
        it.key(),
        it.about(),
        it.account(),
        it.sides(),
        it.atMost(),
        it.where(),
        it.exempt().stream().filter(each -> !each.principal().equals(principal)).toList());
  }

  /** {@return an account, not sealed} */
  public static Account unsealed(Account it) {
    return new Account(it.key(), it.about(), it.parent(), it.suspended(), false);
  }

  /** {@return an account, not suspended} */
  public static Account active(Account it) {
    return new Account(it.key(), it.about(), it.parent(), false, it.sealed());
  }

  /** {@return a key made of words that no assignment has} */
  public static AssignmentKey freeKey(
      java.util.function.Predicate<AssignmentKey> taken, PrincipalKey who, Permission what) {
    String stem = who.value() + "." + what.key().value();
    AssignmentKey key = new AssignmentKey(stem);
    for (int n = 2; taken.test(key); n++) {
      key = new AssignmentKey(stem + "." + n);
    }
    return key;
  }
}
