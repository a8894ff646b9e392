package mandala.core.model.key;

/** A permission set. */
public record PermissionSetKey(String value) implements Key {
  public PermissionSetKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
