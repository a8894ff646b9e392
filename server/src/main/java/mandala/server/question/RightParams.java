package mandala.server.question;

import jakarta.validation.constraints.NotNull;
import mandala.core.model.key.ResourceKey;

/**
 * One permission on one resource, by keys.
 *
 * @param permission key of the permission
 * @param resource key of the resource
 */
record RightParams(@NotNull String permission, @NotNull String resource) {

  /** {@return the resource}; no resource has the key that stands for a blank one */
  ResourceKey where() {
    return resourceOf(resource);
  }

  /** {@return a resource by key}; no resource has the key that stands for a blank one */
  static ResourceKey resourceOf(String key) {
    return new ResourceKey(key.isBlank() ? "?" : key);
  }
}
