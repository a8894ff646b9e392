package mandala.core.rule;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;

/** Which accounts are live and which principals active (sections 1 and 2). */
public final class Activity {

  private Activity() {}

  /** {@return the suspended accounts at or above one}, the lowest first; it is live without any */
  public static List<Account> suspended(AccountKey account, Catalogue catalogue) {
    List<Account> suspended = new ArrayList<>();
    for (Account at = catalogue.accounts().get(account); at != null; ) {
      if (at.suspended()) {
        suspended.add(at);
      }
      at = at.parent() == null ? null : catalogue.accounts().get(at.parent());
    }
    return suspended;
  }

  /** {@return whether neither an account nor one above it is suspended} */
  public static boolean isLive(AccountKey account, Catalogue catalogue) {
    return suspended(account, catalogue).isEmpty();
  }

  /** {@return whether somebody may do anything at all}: active, in their window, home live */
  public static boolean isActive(Principal who, Instant at, Catalogue catalogue) {
    return who.status() == Principal.Status.ACTIVE
        && who.window().holdsAt(at)
        && isLive(who.account(), catalogue);
  }
}
