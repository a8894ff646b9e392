package mandala.server.authorization;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.key.ResourceKey;

/** Where a thing lies, as the trail names it. */
public final class ResourcePath {

  private ResourcePath() {}

  /** {@return the keys of a resource and of all above it}, upwards; none where there is none */
  public static List<String> above(ResourceKey resource, Catalogue catalogue) {
    List<String> places = new ArrayList<>();
    for (ResourceKey at = resource; at != null && catalogue.has(at); ) {
      places.add(at.value());
      at = catalogue.parentOf(at);
    }
    return places;
  }
}
