package mandala.core.escalation;

import mandala.core.model.Key;

/** A permission that somebody wants on a resource. */
record Goal(Key.Permission permission, Key.Resource resource) {}
