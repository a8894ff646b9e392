package mandala.core.model;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import mandala.core.table.Register;
import org.jspecify.annotations.Nullable;

/**
 * Everything in a model by its key, supplied things included, what refers to what, and what follows
 * from one thing alone: a resource's account, type, parent, effective unit and labels (section 1).
 * Of equal keys the first counts. Immutable; built in linear time; {@link #with} and {@link
 * #without} share all but a little with the catalogue before.
 */
public final class Catalogue {

  private @Nullable AccessModel model;
  private Register<AccountKey, Account> accounts;
  private Register<UnitKey, Unit> units;
  private Register<PatternKey, Pattern> patterns;
  private Register<PrincipalKey, Principal> principals;
  private Register<GroupKey, Group> groups;
  private Register<PermissionKey, Permission> permissions;
  private Register<PermissionSetKey, PermissionSet> sets;
  private Register<RoleKey, Role> roles;
  private Register<ResourceKey, Resource> resources;
  private Register<CollectionKey, ResourceCollection> collections;
  private Register<AssignmentKey, Assignment> assignments;
  private Register<BridgeKey, Bridge> bridges;
  private Register<DelegationKey, Delegation> delegations;
  private Register<ExclusionKey, Exclusion> exclusions;
  private Register<ExpectationKey, Expectation> expectations;
  private Register<TypeKey, ResourceType> listedTypes;
  private Links links;
  private final Set<TypeKey> types = new LinkedHashSet<>();

  /** Indexes a model, faulty or not. */
  public Catalogue(AccessModel model) {
    this.model = model;
    accounts = Register.of(model.accounts(), Account::key);
    units = Register.of(model.units(), Unit::key);
    patterns = Register.of(model.patterns(), Pattern::key);
    principals = Register.of(model.principals(), Principal::key);
    groups = Register.of(model.groups(), Group::key);
    permissions =
        Register.of(
            joined(model.permissions(), Supplied.permissions(model.resourceTypes())),
            Permission::key);
    sets =
        Register.of(joined(model.permissionSets(), Supplied.permissionSets()), PermissionSet::key);
    roles = Register.of(joined(model.roles(), Supplied.roles()), Role::key);
    resources = Register.of(model.resources(), Resource::key);
    collections = Register.of(model.collections(), ResourceCollection::key);
    assignments = Register.of(model.assignments(), Assignment::key);
    bridges = Register.of(model.bridges(), Bridge::key);
    delegations = Register.of(model.delegations(), Delegation::key);
    exclusions = Register.of(model.exclusions(), Exclusion::key);
    expectations = Register.of(model.expectations(), Expectation::key);
    listedTypes = Register.of(model.resourceTypes(), ResourceType::key);
    types.addAll(List.of(ResourceType.ACCOUNT, ResourceType.UNIT, ResourceType.GROUP));
    types.addAll(listedTypes.keySet());
    links = Links.of(model, principals, groups, accounts);
  }

  private Catalogue(Catalogue before) {
    model = null;
    accounts = before.accounts;
    units = before.units;
    patterns = before.patterns;
    principals = before.principals;
    groups = before.groups;
    permissions = before.permissions;
    sets = before.sets;
    roles = before.roles;
    resources = before.resources;
    collections = before.collections;
    assignments = before.assignments;
    bridges = before.bridges;
    delegations = before.delegations;
    exclusions = before.exclusions;
    expectations = before.expectations;
    listedTypes = before.listedTypes;
    links = before.links;
    types.addAll(before.types);
  }

  private static <T> List<T> joined(List<T> listed, List<T> supplied) {
    List<T> all = new ArrayList<>(listed);
    all.addAll(supplied);
    return all;
  }

  /**
   * {@return a catalogue with a thing added, or put where one of its key stood}; an altered guest
   * membership or activation is taken away and added
   */
  public Catalogue with(Thing thing) {
    if (thing instanceof ResourceType) {
      return rebuilt(thing, null);
    }
    Catalogue after = new Catalogue(this);
    switch (thing) {
      case Account it -> after.accounts = accounts.with(it);
      case Unit it -> after.units = units.with(it);
      case Pattern it -> after.patterns = patterns.with(it);
      case Principal it -> after.principals = principals.with(it);
      case Group it -> {
        after.groups = groups.with(it);
        after.links = links.with(groups.get(it.key()), it, principals, after.groups, accounts);
      }
      case Permission it -> after.permissions = permissions.with(it);
      case PermissionSet it -> after.sets = sets.with(it);
      case Role it -> after.roles = roles.with(it);
      case Resource it -> after.resources = resources.with(it);
      case ResourceCollection it -> after.collections = collections.with(it);
      case Assignment it -> after.assignments = assignments.with(it);
      case Bridge it -> after.bridges = bridges.with(it);
      case Delegation it -> {
        Delegation old = delegations.get(it.key());
        after.delegations = delegations.with(it);
        after.links = (old == null ? links : links.without(old, principals)).with(it, principals);
      }
      case Exclusion it -> after.exclusions = exclusions.with(it);
      case Expectation it -> after.expectations = expectations.with(it);
      case Guest it -> after.links = links.with(it, principals);
      case Activation it -> after.links = links.with(it, principals);
      case ResourceType _ -> throw new IllegalStateException("Impossible state: handled above");
    }
    return after;
  }

  /** {@return a catalogue without a thing}; guest memberships and activations by equality */
  public Catalogue without(Thing thing) {
    if (thing instanceof ResourceType) {
      return rebuilt(null, thing);
    }
    Catalogue after = new Catalogue(this);
    switch (thing) {
      case Account it -> after.accounts = accounts.without(it.key());
      case Unit it -> after.units = units.without(it.key());
      case Pattern it -> after.patterns = patterns.without(it.key());
      case Principal it -> {
        after.links = links.withoutPrincipal(principals.require(it.key()));
        after.principals = principals.without(it.key());
      }
      case Group it -> {
        after.links =
            links
                .with(groups.get(it.key()), null, principals, groups, accounts)
                .withoutGroup(groups.require(it.key()));
        after.groups = groups.without(it.key());
      }
      case Permission it -> after.permissions = permissions.without(it.key());
      case PermissionSet it -> after.sets = sets.without(it.key());
      case Role it -> after.roles = roles.without(it.key());
      case Resource it -> after.resources = resources.without(it.key());
      case ResourceCollection it -> after.collections = collections.without(it.key());
      case Assignment it -> after.assignments = assignments.without(it.key());
      case Bridge it -> after.bridges = bridges.without(it.key());
      case Delegation it -> {
        after.delegations = delegations.without(it.key());
        after.links = links.without(it, principals);
      }
      case Exclusion it -> after.exclusions = exclusions.without(it.key());
      case Expectation it -> after.expectations = expectations.without(it.key());
      case Guest it -> after.links = links.without(it, principals);
      case Activation it -> after.links = links.without(it, principals);
      case ResourceType _ -> throw new IllegalStateException("Impossible state: handled above");
    }
    return after;
  }

  /** Types decide to what supplied permissions apply: all is indexed anew. */
  private Catalogue rebuilt(@Nullable Thing added, @Nullable Thing removed) {
    AccessModel.Builder rest = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      for (Thing thing : model().things(kind)) {
        boolean replaced = added != null && sameType(thing, added);
        boolean dropped = removed != null && sameType(thing, removed);
        if (!replaced && !dropped) {
          rest.add(thing);
        } else if (replaced && added != null) {
          rest.add(added);
        }
      }
    }
    if (added != null && !listedTypes.containsKey(((ResourceType) added).key())) {
      rest.add(added);
    }
    return new Catalogue(rest.build());
  }

  private static boolean sameType(Thing thing, Thing other) {
    return thing instanceof ResourceType it
        && other instanceof ResourceType that
        && it.key().equals(that.key());
  }

  /** {@return the model that is catalogued}; gathered anew after changes, in linear time */
  public AccessModel model() {
    AccessModel known = model;
    if (known == null) {
      known = gathered();
      model = known;
    }
    return known;
  }

  /** {@return all guest memberships}, gathered by the numbers of their principals */
  public List<Guest> guests() {
    return links.allGuests(principals);
  }

  /** {@return all activations}, gathered by the numbers of their principals */
  public List<Activation> activations() {
    return links.allActivations(principals);
  }

  /** {@return the activations of an assignment}, by the numbers of their principals */
  public List<Activation> activations(AssignmentKey of) {
    return links.activations(of, principals);
  }

  private AccessModel gathered() {
    return AccessModel.builder()
        .addAll(accounts.values())
        .addAll(units.values())
        .addAll(patterns.values())
        .addAll(principals.values())
        .addAll(guests())
        .addAll(groups.values())
        .addAll(listedTypes.values())
        .addAll(listed(permissions.values()))
        .addAll(listed(sets.values()))
        .addAll(listed(roles.values()))
        .addAll(resources.values())
        .addAll(collections.values())
        .addAll(assignments.values())
        .addAll(activations())
        .addAll(bridges.values())
        .addAll(delegations.values())
        .addAll(exclusions.values())
        .addAll(expectations.values())
        .build();
  }

  private static List<Thing> listed(Collection<? extends Thing> things) {
    List<Thing> listed = new ArrayList<>();
    for (Thing thing : things) {
      Key key = thing.key();
      if (key != null && !key.value().startsWith(Supplied.PREFIX)) {
        listed.add(thing);
      }
    }
    return listed;
  }

  /** {@return the thing of the same kind and key}, null where there is none or it has no key */
  public @Nullable Thing find(Thing thing) {
    Key key = thing.key();
    List<? extends Thing> found = key == null ? List.of() : find(Kind.of(thing), key.value());
    return found.isEmpty() ? null : found.getFirst();
  }

  /**
   * {@return the things of a kind with a key}, one or none; guest memberships and activations by
   * the key of their principal, as many as there are
   */
  public List<? extends Thing> find(Kind kind, String key) {
    if (key.isBlank()) {
      return List.of();
    }
    Thing found =
        switch (kind) {
          case ACCOUNTS -> accounts.get(new AccountKey(key));
          case UNITS -> units.get(new UnitKey(key));
          case PATTERNS -> patterns.get(new PatternKey(key));
          case PRINCIPALS -> principals.get(new PrincipalKey(key));
          case GROUPS -> groups.get(new GroupKey(key));
          case RESOURCE_TYPES -> listedTypes.get(new TypeKey(key));
          case PERMISSIONS -> permissions.get(new PermissionKey(key));
          case PERMISSION_SETS -> sets.get(new PermissionSetKey(key));
          case ROLES -> roles.get(new RoleKey(key));
          case RESOURCES -> resources.get(new ResourceKey(key));
          case COLLECTIONS -> collections.get(new CollectionKey(key));
          case ASSIGNMENTS -> assignments.get(new AssignmentKey(key));
          case BRIDGES -> bridges.get(new BridgeKey(key));
          case DELEGATIONS -> delegations.get(new DelegationKey(key));
          case EXCLUSIONS -> exclusions.get(new ExclusionKey(key));
          case EXPECTATIONS -> expectations.get(new ExpectationKey(key));
          case GUESTS, ACTIVATIONS -> null;
        };
    int principal =
        kind == Kind.GUESTS || kind == Kind.ACTIVATIONS
            ? principals.number(new PrincipalKey(key))
            : -1;
    if (principal >= 0) {
      return kind == Kind.GUESTS ? links.guests(principal) : links.activations(principal);
    }
    return found == null ? List.of() : List.of(found);
  }

  /** {@return who refers to whom} */
  public Links links() {
    return links;
  }

  /** {@return the root account above an account}, itself at a root and where it is unknown */
  public AccountKey rootOf(AccountKey account) {
    AccountKey root = account;
    for (Account at = accounts.get(root); at != null && at.parent() != null; ) {
      root = at.parent();
      at = accounts.get(root);
    }
    return root;
  }

  /** {@return accounts by key, in the model's order} */
  public Register<AccountKey, Account> accounts() {
    return accounts;
  }

  /** {@return units by key, in the model's order} */
  public Register<UnitKey, Unit> units() {
    return units;
  }

  /** {@return patterns by key, in the model's order} */
  public Register<PatternKey, Pattern> patterns() {
    return patterns;
  }

  /** {@return principals by key, in the model's order} */
  public Register<PrincipalKey, Principal> principals() {
    return principals;
  }

  /** {@return groups by key, in the model's order} */
  public Register<GroupKey, Group> groups() {
    return groups;
  }

  /** {@return permissions by key, in the model's order, the supplied ones last} */
  public Register<PermissionKey, Permission> permissions() {
    return permissions;
  }

  /** {@return permission sets by key, in the model's order, the supplied ones last} */
  public Register<PermissionSetKey, PermissionSet> sets() {
    return sets;
  }

  /** {@return roles by key, in the model's order, the supplied ones last} */
  public Register<RoleKey, Role> roles() {
    return roles;
  }

  /** {@return listed resources by key, in the model's order} */
  public Register<ResourceKey, Resource> resources() {
    return resources;
  }

  /** {@return collections by key, in the model's order} */
  public Register<CollectionKey, ResourceCollection> collections() {
    return collections;
  }

  /** {@return assignments by key, in the model's order} */
  public Register<AssignmentKey, Assignment> assignments() {
    return assignments;
  }

  /** {@return bridges by key, in the model's order} */
  public Register<BridgeKey, Bridge> bridges() {
    return bridges;
  }

  /** {@return delegations by key, in the model's order} */
  public Register<DelegationKey, Delegation> delegations() {
    return delegations;
  }

  /** {@return exclusions by key} */
  public Register<ExclusionKey, Exclusion> exclusions() {
    return exclusions;
  }

  /** {@return the expectations} */
  public Register<ExpectationKey, Expectation> expectations() {
    return expectations;
  }

  /** {@return all resource types: account, unit and group, then the listed ones} */
  public Set<TypeKey> types() {
    return Collections.unmodifiableSet(types);
  }

  /** {@return whether there is a principal of that kind and key} */
  public boolean has(Principal.Kind kind, PrincipalKey key) {
    Principal principal = principals.get(key);
    return principal != null && principal.kind() == kind;
  }

  /** {@return whether there is such a resource, listed or implicit} */
  public boolean has(ResourceKey resource) {
    return accountOf(resource) != null;
  }

  /** What a resource's key names. */
  private sealed interface Named {
    record OfAccount(Account account) implements Named {}

    record OfUnit(Unit unit) implements Named {}

    record OfGroup(Group group) implements Named {}

    record Listed(Resource resource) implements Named {}
  }

  private @Nullable Named named(ResourceKey key) {
    String text = key.value();
    int colon = text.indexOf(':');
    if (colon < 0) {
      Resource resource = resources.get(key);
      return resource == null ? null : new Named.Listed(resource);
    }
    String rest = text.substring(colon + 1);
    if (rest.isBlank()) {
      return null;
    }
    switch (text.substring(0, colon)) {
      case "account" -> {
        Account account = accounts.get(new AccountKey(rest));
        return account == null ? null : new Named.OfAccount(account);
      }
      case "unit" -> {
        Unit unit = units.get(new UnitKey(rest));
        return unit == null ? null : new Named.OfUnit(unit);
      }
      case "group" -> {
        Group group = groups.get(new GroupKey(rest));
        return group == null ? null : new Named.OfGroup(group);
      }
      default -> {
        return null;
      }
    }
  }

  private Named require(ResourceKey key) {
    Named named = named(key);
    if (named == null) {
      throw new IllegalArgumentException("There is no resource '" + key + "'");
    }
    return named;
  }

  /**
   * {@return the account that a subject belongs to}: where a principal is at home, that of a group
   * or pattern, or the account itself; null for a subject of all accounts, and where there is none
   */
  public @Nullable AccountKey homeOf(Subject subject) {
    return switch (subject) {
      case Subject.OfPrincipal(var _, PrincipalKey key) -> {
        Principal it = principals().get(key);
        yield it == null ? null : it.account();
      }
      case Subject.OfGroup(GroupKey key) -> {
        Group it = groups().get(key);
        yield it == null ? null : it.account();
      }
      case Subject.OfPattern(PatternKey key) -> {
        Pattern it = patterns().get(key);
        yield it == null ? null : it.account();
      }
      case Subject.OfAccount(AccountKey key) -> key;
      case Subject.Public _ -> null;
    };
  }

  /** {@return the account in which a resource lies}, null where there is no such resource */
  public @Nullable AccountKey accountOf(ResourceKey key) {
    return switch (named(key)) {
      case null -> null;
      case Named.OfAccount(Account account) -> account.key();
      case Named.OfUnit(Unit unit) -> unit.account();
      case Named.OfGroup(Group group) -> group.account();
      case Named.Listed(Resource resource) -> resource.account();
    };
  }

  /**
   * {@return the type of a resource}
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public TypeKey typeOf(ResourceKey key) {
    return switch (require(key)) {
      case Named.OfAccount _ -> ResourceType.ACCOUNT;
      case Named.OfUnit _ -> ResourceType.UNIT;
      case Named.OfGroup _ -> ResourceType.GROUP;
      case Named.Listed(Resource resource) -> resource.type();
    };
  }

  /**
   * {@return the resource above}, null for a root account
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public @Nullable ResourceKey parentOf(ResourceKey key) {
    return switch (require(key)) {
      case Named.OfAccount(Account it) -> it.parent() == null ? null : ResourceKey.of(it.parent());
      case Named.OfUnit(Unit it) ->
          it.parent() == null ? ResourceKey.of(it.account()) : ResourceKey.of(it.parent());
      case Named.OfGroup(Group it) -> ResourceKey.of(it.account());
      case Named.Listed(Resource it) ->
          it.parent() == null ? ResourceKey.of(it.account()) : it.parent();
    };
  }

  /**
   * {@return the name of a resource, or its key}
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public String nameOf(ResourceKey key) {
    return switch (require(key)) {
      case Named.OfAccount(Account it) -> it.about().nameOr(it.key());
      case Named.OfUnit(Unit it) -> it.about().nameOr(it.key());
      case Named.OfGroup(Group it) -> it.about().nameOr(it.key());
      case Named.Listed(Resource it) -> it.about().nameOr(it.key());
    };
  }

  /**
   * {@return whether a resource is itself sealed}
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public boolean isSealed(ResourceKey key) {
    return switch (require(key)) {
      case Named.OfAccount(Account it) -> it.sealed();
      case Named.Listed(Resource it) -> it.sealed();
      case Named.OfUnit _, Named.OfGroup _ -> false;
    };
  }

  /**
   * {@return who owns a resource}, null where nobody does
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public @Nullable PrincipalKey ownerOf(ResourceKey key) {
    return require(key) instanceof Named.Listed(Resource it) ? it.owner() : null;
  }

  /**
   * {@return the effective unit of a resource}, null where there is none (section 1)
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public @Nullable UnitKey unitOf(ResourceKey key) {
    for (ResourceKey at = key; at != null; at = parentOf(at)) {
      switch (require(at)) {
        case Named.OfUnit(Unit it) -> {
          return it.key();
        }
        case Named.Listed(Resource it) -> {
          if (it.unit() != null) {
            return it.unit();
          }
        }
        case Named.OfAccount _, Named.OfGroup _ -> {
          return null;
        }
      }
    }
    return null;
  }

  /**
   * {@return the effective labels of a resource, by name} (section 1)
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public Map<String, String> labelsOf(ResourceKey key) {
    Map<String, String> labels = new TreeMap<>();
    for (ResourceKey at = key; at != null; at = parentOf(at)) {
      if (require(at) instanceof Named.Listed(Resource it)) {
        it.labels().forEach(labels::putIfAbsent);
      }
    }
    return labels;
  }

  /** {@return whether there is what a term names}, or it names nothing */
  public boolean knows(Term term) {
    return switch (term.named()) {
      case null -> true;
      case AccountKey key -> accounts.containsKey(key);
      case ResourceKey key -> has(key);
      case CollectionKey key -> collections.containsKey(key);
      case TypeKey key -> types().contains(key);
      case UnitKey key -> units.containsKey(key);
      default -> throw new IllegalArgumentException("No scope names a " + term.named());
    };
  }

  /** {@return whether an account is {@code top} or below it} */
  public boolean isAtOrBelow(AccountKey account, AccountKey top) {
    for (AccountKey at = account; at != null; at = parentOf(at)) {
      if (at.equals(top)) {
        return true;
      }
    }
    return false;
  }

  /** {@return whether a unit is {@code top} or below it} */
  public boolean isAtOrBelow(UnitKey unit, UnitKey top) {
    for (UnitKey at = unit; at != null; ) {
      if (at.equals(top)) {
        return true;
      }
      Unit it = units.get(at);
      at = it == null ? null : it.parent();
    }
    return false;
  }

  private @Nullable AccountKey parentOf(AccountKey key) {
    Account account = accounts.get(key);
    return account == null ? null : account.parent();
  }

  /** {@return whether an account and all above it are active} (section 2) */
  public boolean isLive(AccountKey account) {
    for (AccountKey at = account; at != null; at = parentOf(at)) {
      Account it = accounts.get(at);
      if (it == null || it.suspended()) {
        return false;
      }
    }
    return true;
  }
}
