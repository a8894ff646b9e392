package mandala.server.authorization;

import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;

/** Is told which of Mandala's own rights people use as they work with it (section 12). */
public interface UsedRights {

  /** Somebody does what needs a right that they have. */
  void used(PrincipalKey who, PermissionKey permission, ResourceKey place);

  /**
   * The running call asks for a right that its caller has: use where the call does what the right
   * is for, and not where a page only looks what to offer.
   */
  void asked(PrincipalKey who, PermissionKey permission, ResourceKey place);
}
