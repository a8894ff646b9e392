package mandala.core.chain;

import mandala.core.model.Key;

/** A permission that somebody wants on a resource. */
record Goal(Key.Permission permission, Key.Resource resource) {}
