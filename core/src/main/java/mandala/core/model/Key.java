package mandala.core.model;

/**
 * The name by which a thing is known, one type for each kind of thing.
 *
 * <p>Keys are compared exactly. Whether a key is well formed and free is a question about a whole
 * model and answered by {@code ModelCheck}; here it is only not blank.
 */
public sealed interface Key {

  /** {@return the key as a document writes it} */
  String value();

  private static void requireText(String value) {
    if (value.isBlank()) {
      throw new IllegalArgumentException("A key is blank; give it at least one character");
    }
  }

  /** An account. */
  record Account(String value) implements Key, Comparable<Account> {
    public Account {
      requireText(value);
    }

    @Override
    public int compareTo(Account other) {
      return value.compareTo(other.value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** An organisational unit. */
  record Unit(String value) implements Key {
    public Unit {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A pattern. */
  record Pattern(String value) implements Key {
    public Pattern {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A person or a service. */
  record Principal(String value) implements Key {
    public Principal {
      requireText(value);
    }

    /** Nobody signed in (section 2). */
    public static final Principal ANONYMOUS = new Principal("anonymous");

    @Override
    public String toString() {
      return value;
    }
  }

  /** A group. */
  record Group(String value) implements Key {
    public Group {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A resource type. */
  record Type(String value) implements Key {
    public Type {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A permission. */
  record Permission(String value) implements Key {
    public Permission {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A permission set. */
  record PermissionSet(String value) implements Key {
    public PermissionSet {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A role. */
  record Role(String value) implements Key {
    public Role {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A collection. */
  record Collection(String value) implements Key {
    public Collection {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** An assignment. */
  record Assignment(String value) implements Key {
    public Assignment {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A bridge. */
  record Bridge(String value) implements Key {
    public Bridge {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A delegation. */
  record Delegation(String value) implements Key {
    public Delegation {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** An exclusion. */
  record Exclusion(String value) implements Key {
    public Exclusion {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** An expectation. */
  record Expectation(String value) implements Key {
    public Expectation {
      requireText(value);
    }

    @Override
    public String toString() {
      return value;
    }
  }

  /** A resource: a listed one by its key, or {@code account:K}, {@code unit:U}, {@code group:G}. */
  record Resource(String value) implements Key {
    public Resource {
      requireText(value);
    }

    /** {@return the resource that an account is} */
    public static Resource of(Account account) {
      return new Resource("account:" + account.value());
    }

    /** {@return the resource that a unit is} */
    public static Resource of(Unit unit) {
      return new Resource("unit:" + unit.value());
    }

    /** {@return the resource that a group is} */
    public static Resource of(Group group) {
      return new Resource("group:" + group.value());
    }

    /** {@return whether the model's own objects made this resource} (section 1) */
    public boolean implicit() {
      return value.indexOf(':') >= 0;
    }

    @Override
    public String toString() {
      return value;
    }
  }
}
