package mandala.core.model;

import java.util.Collections;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Everything in a model by its key, supplied things included, and what follows from one thing
 * alone: a resource's account, type, parent, effective unit and labels (section 1). Of equal keys
 * the first counts. Immutable; built in linear time.
 */
public final class Catalogue {

  private final AccessModel model;
  private final Map<Key.Account, Account> accounts;
  private final Map<Key.Unit, Unit> units;
  private final Map<Key.Pattern, Pattern> patterns;
  private final Map<Key.Principal, Principal> principals;
  private final Map<Key.Group, Group> groups;
  private final Map<Key.Permission, Permission> permissions;
  private final Map<Key.PermissionSet, PermissionSet> sets;
  private final Map<Key.Role, Role> roles;
  private final Map<Key.Resource, Resource> resources;
  private final Map<Key.Collection, ResourceCollection> collections;
  private final Map<Key.Assignment, Assignment> assignments;
  private final Map<Key.Type, ResourceType> listedTypes;
  private final Set<Key.Type> types = new LinkedHashSet<>();

  /** Indexes a model, faulty or not. */
  public Catalogue(AccessModel model) {
    this.model = model;
    accounts = index(model.accounts(), Account::key);
    units = index(model.units(), Unit::key);
    patterns = index(model.patterns(), Pattern::key);
    principals = index(model.principals(), Principal::key);
    groups = index(model.groups(), Group::key);
    permissions = index(model.permissions(), Permission::key);
    sets = index(model.permissionSets(), PermissionSet::key);
    roles = index(model.roles(), Role::key);
    resources = index(model.resources(), Resource::key);
    collections = index(model.collections(), ResourceCollection::key);
    assignments = index(model.assignments(), Assignment::key);
    listedTypes = index(model.resourceTypes(), ResourceType::key);
    types.addAll(List.of(ResourceType.ACCOUNT, ResourceType.UNIT, ResourceType.GROUP));
    types.addAll(listedTypes.keySet());
    Supplied.permissions(model.resourceTypes()).forEach(it -> permissions.put(it.key(), it));
    Supplied.permissionSets().forEach(it -> sets.put(it.key(), it));
    Supplied.roles().forEach(it -> roles.put(it.key(), it));
  }

  private static <K, T> Map<K, T> index(List<T> things, Function<T, K> key) {
    Map<K, T> index = LinkedHashMap.newLinkedHashMap(things.size());
    things.forEach(thing -> index.putIfAbsent(key.apply(thing), thing));
    return index;
  }

  /** {@return the model that is catalogued} */
  public AccessModel model() {
    return model;
  }

  /** {@return accounts by key, in the model's order} */
  public Map<Key.Account, Account> accounts() {
    return Collections.unmodifiableMap(accounts);
  }

  /** {@return units by key, in the model's order} */
  public Map<Key.Unit, Unit> units() {
    return Collections.unmodifiableMap(units);
  }

  /** {@return patterns by key, in the model's order} */
  public Map<Key.Pattern, Pattern> patterns() {
    return Collections.unmodifiableMap(patterns);
  }

  /** {@return principals by key, in the model's order} */
  public Map<Key.Principal, Principal> principals() {
    return Collections.unmodifiableMap(principals);
  }

  /** {@return groups by key, in the model's order} */
  public Map<Key.Group, Group> groups() {
    return Collections.unmodifiableMap(groups);
  }

  /** {@return permissions by key, in the model's order, the supplied ones last} */
  public Map<Key.Permission, Permission> permissions() {
    return Collections.unmodifiableMap(permissions);
  }

  /** {@return permission sets by key, in the model's order, the supplied ones last} */
  public Map<Key.PermissionSet, PermissionSet> sets() {
    return Collections.unmodifiableMap(sets);
  }

  /** {@return roles by key, in the model's order, the supplied ones last} */
  public Map<Key.Role, Role> roles() {
    return Collections.unmodifiableMap(roles);
  }

  /** {@return listed resources by key, in the model's order} */
  public Map<Key.Resource, Resource> resources() {
    return Collections.unmodifiableMap(resources);
  }

  /** {@return collections by key, in the model's order} */
  public Map<Key.Collection, ResourceCollection> collections() {
    return Collections.unmodifiableMap(collections);
  }

  /** {@return assignments by key, in the model's order} */
  public Map<Key.Assignment, Assignment> assignments() {
    return Collections.unmodifiableMap(assignments);
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

  /** {@return whether a principal is in a rule group by its rule}, whatever its account */
  public boolean passes(Rule rule, Principal principal) {
    Map<String, @Nullable String> fields = new HashMap<>();
    fields.put("kind", principal.kind().name().toLowerCase(java.util.Locale.ROOT));
    fields.put("status", principal.status().name().toLowerCase(java.util.Locale.ROOT));
    fields.put("account", principal.account().value());
    fields.put("unit", principal.unit() == null ? null : principal.unit().value());
    fields.put("manager", principal.manager() == null ? null : principal.manager().value());
    return rule.match() == Rule.Match.ALL
        ? rule.tests().stream().allMatch(test -> passes(test, principal, fields))
        : rule.tests().stream().anyMatch(test -> passes(test, principal, fields));
  }

  private boolean passes(
      Rule.Test test, Principal principal, Map<String, @Nullable String> fields) {
    String value =
        Rule.FIELDS.contains(test.attribute())
            ? fields.get(test.attribute())
            : principal.attributes().get(test.attribute());
    if (value == null) {
      return test.op() == Rule.Op.ABSENT;
    }
    return switch (test.op()) {
      case IS -> value.equals(test.values().getFirst());
      case IS_NOT -> !value.equals(test.values().getFirst());
      case IN -> test.values().contains(value);
      case STARTS_WITH -> value.startsWith(test.values().getFirst());
      case PRESENT -> true;
      case ABSENT -> false;
      case UNDER -> isAtOrBelow(new Key.Unit(value), new Key.Unit(test.values().getFirst()));
    };
  }
}
