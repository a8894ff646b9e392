package mandala.server.session;

import java.io.Serializable;
import java.security.Principal;

/**
 * Who a session belongs to, as kept in the session store.
 *
 * @param principal the key of a principal of the model
 * @param secondFactor whether a second factor was shown in this session
 */
public record SignedIn(String principal, boolean secondFactor) implements Principal, Serializable {
  @Override
  public String getName() {
    return principal;
  }
}
