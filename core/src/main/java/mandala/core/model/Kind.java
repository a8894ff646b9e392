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

  /** {@return the name of its array in a document} */
  public String field() {
    return field;
  }

  /** {@return what one of them is called} */
  public String word() {
    return word;
  }
}
