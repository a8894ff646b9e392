package mandala.server.authorization;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;

/** Where a thing lies, as the trail names it. */
public final class ResourcePath {

  private ResourcePath() {}

  /** {@return the keys of a resource and of all above it}, upwards; none where there is none */
  public static List<String> above(Key.Resource resource, Catalogue catalogue) {
    List<String> places = new ArrayList<>();
    for (Key.Resource at = resource; at != null && catalogue.has(at); ) {
      places.add(at.value());
      at = catalogue.parentOf(at);
    }
    return places;
  }
}
