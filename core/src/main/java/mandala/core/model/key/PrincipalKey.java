package mandala.core.model.key;

/** A person or a service. */
public record PrincipalKey(String value) implements Key {
  public PrincipalKey {
    KeyText.require(value);
  }

  /** Nobody signed in (section 2). */
  public static final PrincipalKey ANONYMOUS = new PrincipalKey("anonymous");

  @Override
  public String toString() {
    return value;
  }
}
