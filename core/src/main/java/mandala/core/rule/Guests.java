package mandala.core.rule;

import java.time.Instant;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;

/** Into which accounts a guest membership lets somebody (section 2). */
public final class Guests {

  private Guests() {}

  /**
   * {@return whether a guest membership covers an account, in force or not}: its own, and with
   * sub-accounts every account below it
   */
  public static boolean covers(Guest guest, AccountKey account, Catalogue catalogue) {
    return guest.withSubaccounts()
        ? catalogue.isAtOrBelow(account, guest.account())
        : account.equals(guest.account());
  }

  /** {@return whether somebody has a guest membership in force that covers an account} */
  public static boolean isGuest(
      PrincipalKey who, AccountKey account, Instant at, Catalogue catalogue) {
    for (Thing thing : catalogue.find(Kind.GUESTS, who.value())) {
      Guest guest = (Guest) thing;
      if (guest.window().holdsAt(at) && covers(guest, account, catalogue)) {
        return true;
      }
    }
    return false;
  }
}
