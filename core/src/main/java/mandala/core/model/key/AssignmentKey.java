package mandala.core.model.key;

/** An assignment. */
public record AssignmentKey(String value) implements Key {
  public AssignmentKey {
    KeyText.require(value);
  }

  @Override
  public String toString() {
    return value;
  }
}
