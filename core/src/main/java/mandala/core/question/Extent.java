package mandala.core.question;

import java.util.Set;
import mandala.core.model.key.AccountKey;
import org.jspecify.annotations.Nullable;

/**
 * Which part of the tree an answer is about.
 *
 * @param in an account with all below it, or null for every account
 * @param doors whether what is reached in other accounts is told too
 * @param only the accounts that may be told of at all, or null for no such limit; not changed later
 */
public record Extent(@Nullable AccountKey in, boolean doors, @Nullable Set<AccountKey> only) {

  /** Everything, everywhere. */
  public static final Extent WHOLE = new Extent(null, false, null);

  /** {@return an account and all below it} */
  public static Extent in(AccountKey account) {
    return new Extent(account, false, null);
  }
}
