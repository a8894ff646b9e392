package mandala.core.model.key;

/** A role. */
public record RoleKey(String value) implements Key {
  public RoleKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
