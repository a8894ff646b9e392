package mandala.core.authority;

import java.util.List;
import mandala.core.model.Key;

/**
 * What a change asks of its author.
 *
 * @param permission that the author needs
 * @param anyOf on one of these resources of the model before; mostly just one
 */
public record RequiredRight(Key.Permission permission, List<Key.Resource> anyOf) {

  /** Copies its resources; refuses none. */
  public RequiredRight {
    anyOf = List.copyOf(anyOf);
    if (anyOf.isEmpty()) {
      throw new IllegalArgumentException("A demand names at least one resource");
    }
  }

  static RequiredRight of(Key.Permission permission, Key.Resource resource) {
    return new RequiredRight(permission, List.of(resource));
  }
}
