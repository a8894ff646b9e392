package mandala.core.reconcile;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;

/**
 * What the terms of another system mean in the model. An identity that is not listed is matched by
 * e-mail address, then by key; an entitlement or a place that is not listed means nothing.
 *
 * @param people by identity
 * @param entitlements what each allows, by its name there
 * @param places by their names there
 */
public record Terms(
    Map<String, PrincipalKey> people,
    Map<String, List<PermissionKey>> entitlements,
    Map<String, Area> places) {

  /** Copies its maps. */
  public Terms {
    people = Map.copyOf(people);
    entitlements = Map.copyOf(entitlements);
    places = Map.copyOf(places);
  }

  /** {@return the entitlement and the place of a line that mean nothing}: {@code place Attic} */
  public List<String> lacking(HeldLine line) {
    List<String> lacking = new ArrayList<>();
    if (!entitlements.containsKey(line.entitlement())) {
      lacking.add("entitlement " + line.entitlement());
    }
    if (!places.containsKey(line.place())) {
      lacking.add("place " + line.place());
    }
    return lacking;
  }

  /**
   * A place.
   *
   * @param below whether all resources below it belong to it
   */
  public record Area(ResourceKey top, boolean below) {}
}
