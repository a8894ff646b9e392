package mandala.core.model.key;

/** An account. */
public record AccountKey(String value) implements Key, Comparable<AccountKey> {
  public AccountKey {
    KeyText.require(value);
  }

  @Override
  public int compareTo(AccountKey other) {
    return value.compareTo(other.value);
  }

  @Override
  public String toString() {
    return value;
  }
}
