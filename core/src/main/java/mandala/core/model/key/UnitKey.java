package mandala.core.model.key;

/** An organisational unit. */
public record UnitKey(String value) implements Key {
  public UnitKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
