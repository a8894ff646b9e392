package mandala.core.model.key;

/** A group. */
public record GroupKey(String value) implements Key {
  public GroupKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
