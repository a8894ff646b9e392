package mandala.server.session;

import java.io.Serializable;
import java.security.Principal;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Who a session belongs to, as kept in the session store; or who calls with a token.
 *
 * @param principal the key of a principal of the model
 * @param secondFactor whether a second factor was shown in this session
 * @param token the token with which this one call comes, or null
 */
public record SignedIn(String principal, boolean secondFactor, @Nullable ByToken token)
    implements Principal, Serializable {

  /** Somebody with a session. */
  public SignedIn(String principal, boolean secondFactor) {
    this(principal, secondFactor, null);
  }

  /**
   * A token of a connection.
   *
   * @param accounts keys of the accounts of which it may tell
   * @param purposes what it is for
   */
  public record ByToken(String id, String name, Set<String> accounts, Set<String> purposes)
      implements Serializable {
    /** Copies its sets. */
    public ByToken {
      accounts = Set.copyOf(accounts);
      purposes = Set.copyOf(purposes);
    }
  }

  @Override
  public String getName() {
    return principal;
  }
}
