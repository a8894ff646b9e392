package mandala.core.model.key;

/** A delegation. */
public record DelegationKey(String value) implements Key {
  public DelegationKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
