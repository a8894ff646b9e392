package mandala.core.rule;

import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.UnitKey;

/** Which units count as somebody's own: theirs, and those that they reach (section 4). */
public final class UnitReach {

  private UnitReach() {}

  /**
   * {@return whether a unit is at or below one's own, or below one that is reached}
   *
   * @param viewing whether a reach for viewing only is enough
   */
  public static boolean covers(Principal who, UnitKey unit, boolean viewing, Catalogue catalogue) {
    UnitKey own = who.unit();
    return (own != null && catalogue.isAtOrBelow(unit, own))
        || who.reach().stream()
            .filter(it -> viewing || it.level() == Principal.Level.FULL)
            .anyMatch(it -> catalogue.isAtOrBelow(unit, it.unit()));
  }
}
