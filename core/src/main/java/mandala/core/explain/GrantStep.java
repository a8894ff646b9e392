package mandala.core.explain;

import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;

/** One step from what is assigned to the permission that it names (section 3). */
public sealed interface GrantStep {

  /** A role, the assigned one or one that it inherits. */
  record OfRole(RoleKey key, boolean requiresMfa, boolean retired) implements GrantStep {}

  /** A set, of a role or included. */
  record OfSet(PermissionSetKey key) implements GrantStep {}

  /** A permission: the one that is named, then each that is implied. */
  record OfPermission(PermissionKey key) implements GrantStep {}
}
