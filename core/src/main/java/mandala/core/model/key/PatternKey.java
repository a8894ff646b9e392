package mandala.core.model.key;

/** A pattern. */
public record PatternKey(String value) implements Key {
  public PatternKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
