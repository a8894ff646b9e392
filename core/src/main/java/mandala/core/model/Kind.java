package mandala.core.model;

/** The kinds of thing, in the order in which a document lists them (section 10). */
public enum Kind {
  ACCOUNTS("accounts", "account"),
  UNITS("units", "unit"),
  PATTERNS("patterns", "pattern"),
  PRINCIPALS("principals", "principal"),
  GUESTS("guests", "guest"),
  GROUPS("groups", "group"),
  RESOURCE_TYPES("resourceTypes", "resource type"),
  PERMISSIONS("permissions", "permission"),
  PERMISSION_SETS("permissionSets", "permission set"),
  ROLES("roles", "role"),
  RESOURCES("resources", "resource"),
  COLLECTIONS("collections", "collection"),
  ASSIGNMENTS("assignments", "assignment"),
  ACTIVATIONS("activations", "activation"),
  BRIDGES("bridges", "bridge"),
  DELEGATIONS("delegations", "delegation"),
  EXCLUSIONS("exclusions", "exclusion"),
  EXPECTATIONS("expectations", "expectation");

  private final String field;
  private final String word;

  Kind(String field, String word) {
    this.field = field;
    this.word = word;
  }

  /** {@return the kind of a thing} */
  public static Kind of(Thing thing) {
    return switch (thing) {
      case Account _ -> ACCOUNTS;
      case Unit _ -> UNITS;
      case Pattern _ -> PATTERNS;
      case Principal _ -> PRINCIPALS;
      case Guest _ -> GUESTS;
      case Group _ -> GROUPS;
      case ResourceType _ -> RESOURCE_TYPES;
      case Permission _ -> PERMISSIONS;
      case PermissionSet _ -> PERMISSION_SETS;
      case Role _ -> ROLES;
      case Resource _ -> RESOURCES;
      case ResourceCollection _ -> COLLECTIONS;
      case Assignment _ -> ASSIGNMENTS;
      case Activation _ -> ACTIVATIONS;
      case Bridge _ -> BRIDGES;
      case Delegation _ -> DELEGATIONS;
      case Exclusion _ -> EXCLUSIONS;
      case Expectation _ -> EXPECTATIONS;
    };
  }

  /** {@return the name of its array in a document} */
  public String field() {
    return field;
  }

  /** {@return what one of them is called} */
  public String word() {
    return word;
  }
}
