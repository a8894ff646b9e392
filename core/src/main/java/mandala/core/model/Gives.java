package mandala.core.model;

import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;

/** What an assignment, a bridge or a delegation's limit names. */
public sealed interface Gives {

  /** {@return the key of what it names} */
  Key key();

  /** {@code role:K}. */
  record OfRole(RoleKey key) implements Gives {}

  /** {@code set:K}. */
  record OfSet(PermissionSetKey key) implements Gives {}

  /** {@code permission:K}. */
  record OfPermission(PermissionKey key) implements Gives {}
}
