package mandala.core.question;

import java.time.Instant;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * May this principal do this here, at this instant?
 *
 * @param principal who acts; {@link PrincipalKey#ANONYMOUS} where nobody is signed in
 * @param at the instant; parts of a second do not count
 * @param mfa whether the session has a second factor
 * @param actingFor for whom the principal acts, or null
 */
public record Question(
    PrincipalKey principal,
    PermissionKey permission,
    ResourceKey resource,
    Instant at,
    boolean mfa,
    @Nullable PrincipalKey actingFor) {

  /** {@return who acts, when and for whom, without permission and resource} */
  public Session session() {
    return new Session(principal, at, mfa, actingFor);
  }
}
