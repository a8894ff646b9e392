package mandala.core;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;

/** Every resource of a model, read from the model alone. */
public final class AllPlaces {

  private AllPlaces() {}

  /** {@return the resources of a model, implicit ones too} */
  public static List<Key.Resource> of(AccessModel model) {
    List<Key.Resource> all = new ArrayList<>();
    model.accounts().forEach(it -> all.add(Key.Resource.of(it.key())));
    model.units().forEach(it -> all.add(Key.Resource.of(it.key())));
    model.groups().forEach(it -> all.add(Key.Resource.of(it.key())));
    model.resources().forEach(it -> all.add(it.key()));
    return all;
  }

  /** {@return whether a resource is another or below it} */
  public static boolean isUnder(Catalogue catalogue, Key.Resource resource, Key.Resource top) {
    for (Key.Resource at = resource; at != null; at = catalogue.parentOf(at)) {
      if (at.equals(top)) {
        return true;
      }
    }
    return false;
  }
}
