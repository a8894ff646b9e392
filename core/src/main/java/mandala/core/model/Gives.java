package mandala.core.model;

/** What an assignment, a bridge or a delegation's limit names. */
public sealed interface Gives {

  /** {@code role:K}. */
  record OfRole(Key.Role key) implements Gives {}

  /** {@code set:K}. */
  record OfSet(Key.PermissionSet key) implements Gives {}

  /** {@code permission:K}. */
  record OfPermission(Key.Permission key) implements Gives {}
}
