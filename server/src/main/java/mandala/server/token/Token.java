package mandala.server.token;

import java.time.Instant;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A token as it is kept: without its secret.
 *
 * @param principal key of whose rights it has
 * @param purposes words of {@link TokenPurpose}
 * @param accounts keys of the accounts of which it may tell
 * @param used when it was used last, to a minute, or null
 * @param from the address from which it was used last, or null
 */
record Token(
    String id,
    String name,
    String principal,
    Set<String> purposes,
    Set<String> accounts,
    String madeBy,
    Instant made,
    Instant ends,
    @Nullable Instant used,
    @Nullable String from,
    @Nullable Instant revoked) {

  /** Copies its sets. */
  Token {
    purposes = Set.copyOf(purposes);
    accounts = Set.copyOf(accounts);
  }

  /** {@return whether it is neither revoked nor past its end} */
  boolean holdsAt(Instant now) {
    return revoked == null && now.isBefore(ends);
  }
}
