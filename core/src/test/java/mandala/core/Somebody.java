package mandala.core;

import java.util.List;
import java.util.Map;
import mandala.core.model.About;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;

/** People of whom a test needs no more than that they are there. */
public final class Somebody {

  private Somebody() {}

  /** {@return an active person without a second factor, unit, manager or anything else} */
  public static Principal at(AccountKey account, PrincipalKey key) {
    return at(account, key, false);
  }

  /** {@return the same}, with a second factor or without */
  public static Principal at(AccountKey account, PrincipalKey key, boolean mfa) {
    return new Principal(
        key,
        About.NONE,
        Principal.Kind.PERSON,
        account,
        null,
        null,
        Principal.Status.ACTIVE,
        Window.ALWAYS,
        mfa,
        Map.of(),
        null,
        List.of(),
        null,
        null,
        null);
  }
}
