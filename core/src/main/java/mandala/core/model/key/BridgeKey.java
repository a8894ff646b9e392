package mandala.core.model.key;

/** A bridge. */
public record BridgeKey(String value) implements Key {
  public BridgeKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
