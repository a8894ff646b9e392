package mandala.server.catalog;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * Which things a list shows.
 *
 * @param account key of the account that they belong to; of all where absent
 * @param text in name or key
 * @param draft id of a draft to lay over the model, or {@code open} for one's own
 */
record ThingFilter(@Nullable String account, @Nullable String text, @Nullable String draft) {

  /** Orders what fits. */
  NameSearch search() {
    return new NameSearch(text == null ? "" : text);
  }

  boolean fits(ThingView view) {
    if (account != null
        && !account.isBlank()
        && view.account() != null
        && !account.equals(view.account())) {
      return false;
    }
    if (text == null || text.isBlank()) {
      return true;
    }
    String wanted = text.strip().toLowerCase(Locale.ROOT);
    return view.name().toLowerCase(Locale.ROOT).contains(wanted)
        || (view.key() != null && view.key().contains(wanted));
  }
}
