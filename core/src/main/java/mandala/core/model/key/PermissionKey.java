package mandala.core.model.key;

/** A permission. */
public record PermissionKey(String value) implements Key {
  public PermissionKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
