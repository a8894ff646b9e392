package mandala.core.escalation;

import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;

/** A permission that somebody wants on a resource. */
record Goal(PermissionKey permission, ResourceKey resource) {}
