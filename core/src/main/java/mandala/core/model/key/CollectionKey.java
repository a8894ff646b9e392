package mandala.core.model.key;

/** A collection. */
public record CollectionKey(String value) implements Key {
  public CollectionKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
