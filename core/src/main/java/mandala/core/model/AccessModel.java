package mandala.core.model;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * A whole model: for each kind of thing the list of what the document lists, supplied things apart
 * ({@link Supplied}).
 *
 * <p>A model may be faulty; {@code ModelCheck} tells. Evaluation takes checked models only.
 */
public record AccessModel(
    List<Account> accounts,
    List<Unit> units,
    List<Pattern> patterns,
    List<Principal> principals,
    List<Guest> guests,
    List<Group> groups,
    List<ResourceType> resourceTypes,
    List<Permission> permissions,
    List<PermissionSet> permissionSets,
    List<Role> roles,
    List<Resource> resources,
    List<ResourceCollection> collections,
    List<Assignment> assignments,
    List<Activation> activations,
    List<Bridge> bridges,
    List<Delegation> delegations,
    List<Exclusion> exclusions,
    List<Expectation> expectations) {

  /** Copies its lists. */
  public AccessModel {
    accounts = List.copyOf(accounts);
    units = List.copyOf(units);
    patterns = List.copyOf(patterns);
    principals = List.copyOf(principals);
    guests = List.copyOf(guests);
    groups = List.copyOf(groups);
    resourceTypes = List.copyOf(resourceTypes);
    permissions = List.copyOf(permissions);
    permissionSets = List.copyOf(permissionSets);
    roles = List.copyOf(roles);
    resources = List.copyOf(resources);
    collections = List.copyOf(collections);
    assignments = List.copyOf(assignments);
    activations = List.copyOf(activations);
    bridges = List.copyOf(bridges);
    delegations = List.copyOf(delegations);
    exclusions = List.copyOf(exclusions);
    expectations = List.copyOf(expectations);
  }

  /** {@return a model with nothing in it} */
  public static AccessModel empty() {
    return new Builder().build();
  }

  /** {@return a builder with nothing in it} */
  public static Builder builder() {
    return new Builder();
  }

  /** {@return all things of a kind, in this model's order} */
  public List<? extends Thing> things(Kind kind) {
    return switch (kind) {
      case ACCOUNTS -> accounts;
      case UNITS -> units;
      case PATTERNS -> patterns;
      case PRINCIPALS -> principals;
      case GUESTS -> guests;
      case GROUPS -> groups;
      case RESOURCE_TYPES -> resourceTypes;
      case PERMISSIONS -> permissions;
      case PERMISSION_SETS -> permissionSets;
      case ROLES -> roles;
      case RESOURCES -> resources;
      case COLLECTIONS -> collections;
      case ASSIGNMENTS -> assignments;
      case ACTIVATIONS -> activations;
      case BRIDGES -> bridges;
      case DELEGATIONS -> delegations;
      case EXCLUSIONS -> exclusions;
      case EXPECTATIONS -> expectations;
    };
  }

  /** {@return the number of things listed} */
  public int size() {
    int size = 0;
    for (Kind kind : Kind.values()) {
      size += things(kind).size();
    }
    return size;
  }

  /**
   * {@return this model in the canonical order}: each list by key; guests by principal, account and
   * window, activations by principal, assignment and window
   */
  public AccessModel sorted() {
    Builder sorted = builder();
    for (Kind kind : Kind.values()) {
      things(kind).stream().sorted(Comparator.comparing(SortKey::of)).forEach(sorted::add);
    }
    return sorted.build();
  }

  /** Gathers things into a model; not thread-safe. */
  public static final class Builder {
    private final List<Account> accounts = new ArrayList<>();
    private final List<Unit> units = new ArrayList<>();
    private final List<Pattern> patterns = new ArrayList<>();
    private final List<Principal> principals = new ArrayList<>();
    private final List<Guest> guests = new ArrayList<>();
    private final List<Group> groups = new ArrayList<>();
    private final List<ResourceType> resourceTypes = new ArrayList<>();
    private final List<Permission> permissions = new ArrayList<>();
    private final List<PermissionSet> permissionSets = new ArrayList<>();
    private final List<Role> roles = new ArrayList<>();
    private final List<Resource> resources = new ArrayList<>();
    private final List<ResourceCollection> collections = new ArrayList<>();
    private final List<Assignment> assignments = new ArrayList<>();
    private final List<Activation> activations = new ArrayList<>();
    private final List<Bridge> bridges = new ArrayList<>();
    private final List<Delegation> delegations = new ArrayList<>();
    private final List<Exclusion> exclusions = new ArrayList<>();
    private final List<Expectation> expectations = new ArrayList<>();

    private Builder() {}

    /** Adds things, each to the list of its kind. */
    public Builder add(Thing... things) {
      for (Thing thing : things) {
        add(thing);
      }
      return this;
    }

    /** Adds things, each to the list of its kind. */
    public Builder addAll(Iterable<? extends Thing> things) {
      things.forEach(this::add);
      return this;
    }

    private void add(Thing thing) {
      switch (thing) {
        case Account it -> accounts.add(it);
        case Unit it -> units.add(it);
        case Pattern it -> patterns.add(it);
        case Principal it -> principals.add(it);
        case Guest it -> guests.add(it);
        case Group it -> groups.add(it);
        case ResourceType it -> resourceTypes.add(it);
        case Permission it -> permissions.add(it);
        case PermissionSet it -> permissionSets.add(it);
        case Role it -> roles.add(it);
        case Resource it -> resources.add(it);
        case ResourceCollection it -> collections.add(it);
        case Assignment it -> assignments.add(it);
        case Activation it -> activations.add(it);
        case Bridge it -> bridges.add(it);
        case Delegation it -> delegations.add(it);
        case Exclusion it -> exclusions.add(it);
        case Expectation it -> expectations.add(it);
      }
    }

    /** {@return the model so far} */
    public AccessModel build() {
      return new AccessModel(
          accounts,
          units,
          patterns,
          principals,
          guests,
          groups,
          resourceTypes,
          permissions,
          permissionSets,
          roles,
          resources,
          collections,
          assignments,
          activations,
          bridges,
          delegations,
          exclusions,
          expectations);
    }
  }
}
