package mandala.core.model;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
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
  private Register<Key.Account, Account> accounts;
  private Register<Key.Unit, Unit> units;
  private Register<Key.Pattern, Pattern> patterns;
  private Register<Key.Principal, Principal> principals;
  private Register<Key.Group, Group> groups;
  private Register<Key.Permission, Permission> permissions;
  private Register<Key.PermissionSet, PermissionSet> sets;
  private Register<Key.Role, Role> roles;
  private Register<Key.Resource, Resource> resources;
  private Register<Key.Collection, ResourceCollection> collections;
  private Register<Key.Assignment, Assignment> assignments;
  private Register<Key.Bridge, Bridge> bridges;
  private Register<Key.Delegation, Delegation> delegations;
  private Register<Key.Exclusion, Exclusion> exclusions;
  private Register<Key.Expectation, Expectation> expectations;
  private Register<Key.Type, ResourceType> listedTypes;
  private Links links;
  private final Set<Key.Type> types = new LinkedHashSet<>();

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
          case ACCOUNTS -> accounts.get(new Key.Account(key));
          case UNITS -> units.get(new Key.Unit(key));
          case PATTERNS -> patterns.get(new Key.Pattern(key));
          case PRINCIPALS -> principals.get(new Key.Principal(key));
          case GROUPS -> groups.get(new Key.Group(key));
          case RESOURCE_TYPES -> listedTypes.get(new Key.Type(key));
          case PERMISSIONS -> permissions.get(new Key.Permission(key));
          case PERMISSION_SETS -> sets.get(new Key.PermissionSet(key));
          case ROLES -> roles.get(new Key.Role(key));
          case RESOURCES -> resources.get(new Key.Resource(key));
          case COLLECTIONS -> collections.get(new Key.Collection(key));
          case ASSIGNMENTS -> assignments.get(new Key.Assignment(key));
          case BRIDGES -> bridges.get(new Key.Bridge(key));
          case DELEGATIONS -> delegations.get(new Key.Delegation(key));
          case EXCLUSIONS -> exclusions.get(new Key.Exclusion(key));
          case EXPECTATIONS -> expectations.get(new Key.Expectation(key));
          case GUESTS, ACTIVATIONS -> null;
        };
    int principal =
        kind == Kind.GUESTS || kind == Kind.ACTIVATIONS
            ? principals.number(new Key.Principal(key))
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

  /** {@return accounts by key, in the model's order} */
  public Register<Key.Account, Account> accounts() {
    return accounts;
  }

  /** {@return units by key, in the model's order} */
  public Register<Key.Unit, Unit> units() {
    return units;
  }

  /** {@return patterns by key, in the model's order} */
  public Register<Key.Pattern, Pattern> patterns() {
    return patterns;
  }

  /** {@return principals by key, in the model's order} */
  public Register<Key.Principal, Principal> principals() {
    return principals;
  }

  /** {@return groups by key, in the model's order} */
  public Register<Key.Group, Group> groups() {
    return groups;
  }

  /** {@return permissions by key, in the model's order, the supplied ones last} */
  public Register<Key.Permission, Permission> permissions() {
    return permissions;
  }

  /** {@return permission sets by key, in the model's order, the supplied ones last} */
  public Register<Key.PermissionSet, PermissionSet> sets() {
    return sets;
  }

  /** {@return roles by key, in the model's order, the supplied ones last} */
  public Register<Key.Role, Role> roles() {
    return roles;
  }

  /** {@return listed resources by key, in the model's order} */
  public Register<Key.Resource, Resource> resources() {
    return resources;
  }

  /** {@return collections by key, in the model's order} */
  public Register<Key.Collection, ResourceCollection> collections() {
    return collections;
  }

  /** {@return assignments by key, in the model's order} */
  public Register<Key.Assignment, Assignment> assignments() {
    return assignments;
  }

  /** {@return bridges by key, in the model's order} */
  public Register<Key.Bridge, Bridge> bridges() {
    return bridges;
  }

  /** {@return delegations by key, in the model's order} */
  public Register<Key.Delegation, Delegation> delegations() {
    return delegations;
  }

  /** {@return all resource types: account, unit and group, then the listed ones} */
  public Set<Key.Type> types() {
    return Collections.unmodifiableSet(types);
  }

  /** {@return whether there is a principal of that kind and key} */
  public boolean has(Principal.Kind kind, Key.Principal key) {
    Principal principal = principals.get(key);
    return principal != null && principal.kind() == kind;
  }

  /** {@return whether there is such a resource, listed or implicit} */
  public boolean has(Key.Resource resource) {
    return accountOf(resource) != null;
  }

  /** What a resource's key names. */
  private sealed interface Named {
    record OfAccount(Account account) implements Named {}

    record OfUnit(Unit unit) implements Named {}

    record OfGroup(Group group) implements Named {}

    record Listed(Resource resource) implements Named {}
  }

  private @Nullable Named named(Key.Resource key) {
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
        Account account = accounts.get(new Key.Account(rest));
        return account == null ? null : new Named.OfAccount(account);
      }
      case "unit" -> {
        Unit unit = units.get(new Key.Unit(rest));
        return unit == null ? null : new Named.OfUnit(unit);
      }
      case "group" -> {
        Group group = groups.get(new Key.Group(rest));
        return group == null ? null : new Named.OfGroup(group);
      }
      default -> {
        return null;
      }
    }
  }

  private Named require(Key.Resource key) {
    Named named = named(key);
    if (named == null) {
      throw new IllegalArgumentException("There is no resource '" + key + "'");
    }
    return named;
  }

  /** {@return the account in which a resource lies}, null where there is no such resource */
  public Key.@Nullable Account accountOf(Key.Resource key) {
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
  public Key.Type typeOf(Key.Resource key) {
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
  public Key.@Nullable Resource parentOf(Key.Resource key) {
    return switch (require(key)) {
      case Named.OfAccount(Account it) -> it.parent() == null ? null : Key.Resource.of(it.parent());
      case Named.OfUnit(Unit it) ->
          it.parent() == null ? Key.Resource.of(it.account()) : Key.Resource.of(it.parent());
      case Named.OfGroup(Group it) -> Key.Resource.of(it.account());
      case Named.Listed(Resource it) ->
          it.parent() == null ? Key.Resource.of(it.account()) : it.parent();
    };
  }

  /**
   * {@return the name of a resource, or its key}
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public String nameOf(Key.Resource key) {
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
  public boolean isSealed(Key.Resource key) {
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
  public Key.@Nullable Principal ownerOf(Key.Resource key) {
    return require(key) instanceof Named.Listed(Resource it) ? it.owner() : null;
  }

  /**
   * {@return the effective unit of a resource}, null where there is none (section 1)
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public Key.@Nullable Unit unitOf(Key.Resource key) {
    for (Key.Resource at = key; at != null; at = parentOf(at)) {
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
  public Map<String, String> labelsOf(Key.Resource key) {
    Map<String, String> labels = new TreeMap<>();
    for (Key.Resource at = key; at != null; at = parentOf(at)) {
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
      case Key.Account key -> accounts.containsKey(key);
      case Key.Resource key -> has(key);
      case Key.Collection key -> collections.containsKey(key);
      case Key.Type key -> types().contains(key);
      case Key.Unit key -> units.containsKey(key);
      default -> throw new IllegalArgumentException("No scope names a " + term.named());
    };
  }

  /** {@return whether an account is {@code top} or below it} */
  public boolean isAtOrBelow(Key.Account account, Key.Account top) {
    for (Key.Account at = account; at != null; at = parentOf(at)) {
      if (at.equals(top)) {
        return true;
      }
    }
    return false;
  }

  /** {@return whether a unit is {@code top} or below it} */
  public boolean isAtOrBelow(Key.Unit unit, Key.Unit top) {
    for (Key.Unit at = unit; at != null; ) {
      if (at.equals(top)) {
        return true;
      }
      Unit it = units.get(at);
      at = it == null ? null : it.parent();
    }
    return false;
  }

  private Key.@Nullable Account parentOf(Key.Account key) {
    Account account = accounts.get(key);
    return account == null ? null : account.parent();
  }

  /** {@return whether an account and all above it are active} (section 2) */
  public boolean isLive(Key.Account account) {
    for (Key.Account at = account; at != null; at = parentOf(at)) {
      Account it = accounts.get(at);
      if (it == null || it.suspended()) {
        return false;
      }
    }
    return true;
  }
}
