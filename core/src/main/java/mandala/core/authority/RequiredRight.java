package mandala.core.authority;

import java.util.List;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;

/**
 * What a change asks of its author.
 *
 * @param permission that the author needs
 * @param anyOf on one of these resources of the model before; mostly just one
 */
public record RequiredRight(PermissionKey permission, List<ResourceKey> anyOf) {

  /** Copies its resources; refuses none. */
  public RequiredRight {
    anyOf = List.copyOf(anyOf);
    if (anyOf.isEmpty()) {
      throw new IllegalArgumentException("A demand names at least one resource");
    }
  }

  static RequiredRight of(PermissionKey permission, ResourceKey resource) {
    return new RequiredRight(permission, List.of(resource));
  }
}
