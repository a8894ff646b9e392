package mandala.core.reconcile;

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

  /**
   * A place.
   *
   * @param below whether all resources below it belong to it
   */
  public record Area(ResourceKey top, boolean below) {}
}
