package mandala.core.model.key;

/** An expectation. */
public record ExpectationKey(String value) implements Key {
  public ExpectationKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
