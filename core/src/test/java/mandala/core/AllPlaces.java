package mandala.core;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.key.ResourceKey;

/** Every resource of a model, read from the model alone. */
public final class AllPlaces {

  private AllPlaces() {}

  /** {@return the resources of a model, implicit ones too} */
  public static List<ResourceKey> of(AccessModel model) {
    List<ResourceKey> all = new ArrayList<>();
    model.accounts().forEach(it -> all.add(ResourceKey.of(it.key())));
    model.units().forEach(it -> all.add(ResourceKey.of(it.key())));
    model.groups().forEach(it -> all.add(ResourceKey.of(it.key())));
    model.resources().forEach(it -> all.add(it.key()));
    return all;
  }

  /** {@return whether a resource is another or below it} */
  public static boolean isUnder(Catalogue catalogue, ResourceKey resource, ResourceKey top) {
    for (ResourceKey at = resource; at != null; at = catalogue.parentOf(at)) {
      if (at.equals(top)) {
        return true;
      }
    }
    return false;
  }
}
