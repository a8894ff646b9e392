package mandala.server.question;

import jakarta.validation.constraints.NotNull;
import mandala.core.model.Key;

/**
 * One permission on one resource, by keys.
 *
 * @param permission key of the permission
 * @param resource key of the resource
 */
record RightParams(@NotNull String permission, @NotNull String resource) {

  /** {@return the resource}; no resource has the key that stands for a blank one */
  Key.Resource where() {
    return resourceOf(resource);
  }

  /** {@return a resource by key}; no resource has the key that stands for a blank one */
  static Key.Resource resourceOf(String key) {
    return new Key.Resource(key.isBlank() ? "?" : key);
  }
}
