package mandala.core.model.key;

/** A resource type. */
public record TypeKey(String value) implements Key {
  public TypeKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
