package mandala.core.model.key;

/** An exclusion. */
public record ExclusionKey(String value) implements Key {
  public ExclusionKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
