package mandala.core.rule;

import java.time.Instant;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;

/** To which accounts somebody belongs (section 2). */
public final class Membership {

  private Membership() {}

  /**
   * {@return whether somebody belongs to an account at an instant}: it is at or below their home,
   * or a guest membership in force covers it. What is given to named subjects counts only there
   */
  public static boolean belongs(
      Principal who, AccountKey account, Instant at, Catalogue catalogue) {
    return catalogue.isAtOrBelow(account, who.account())
        || Guests.isGuest(who.key(), account, at, catalogue);
  }
}
