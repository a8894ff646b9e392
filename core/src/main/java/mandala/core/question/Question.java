package mandala.core.question;

import java.time.Instant;
import mandala.core.model.Key;
import org.jspecify.annotations.Nullable;

/**
 * May this principal do this here, at this instant?
 *
 * @param principal who acts; {@link Key.Principal#ANONYMOUS} where nobody is signed in
 * @param at the instant; parts of a second do not count
 * @param mfa whether the session has a second factor
 * @param actingFor for whom the principal acts, or null
 */
public record Question(
    Key.Principal principal,
    Key.Permission permission,
    Key.Resource resource,
    Instant at,
    boolean mfa,
    Key.@Nullable Principal actingFor) {

  /** {@return who acts, when and for whom, without permission and resource} */
  public Session session() {
    return new Session(principal, at, mfa, actingFor);
  }
}
