package mandala.core.model;

import mandala.core.model.key.AccountKey;
import org.jspecify.annotations.Nullable;

/** A tenant: it owns resources and is home to principals; accounts form a forest. */
public record Account(
    AccountKey key, About about, @Nullable AccountKey parent, boolean suspended, boolean sealed)
    implements Thing {

  /** {@return an active account without a parent} */
  public static Account root(String key) {
    return new Account(new AccountKey(key), About.NONE, null, false, false);
  }

  /** {@return an active account below another} */
  public static Account below(String parent, String key) {
    return new Account(new AccountKey(key), About.NONE, new AccountKey(parent), false, false);
  }
}
