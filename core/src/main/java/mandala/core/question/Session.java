package mandala.core.question;

import java.time.Instant;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * Who acts, when, how and for whom: all of a question but its permission and resource.
 *
 * @param principal who acts
 * @param at the instant; parts of a second do not count
 * @param mfa whether the session has a second factor
 * @param actingFor for whom the principal acts, or null
 */
public record Session(
    PrincipalKey principal, Instant at, boolean mfa, @Nullable PrincipalKey actingFor) {

  /** {@return the question whether this session may do that there} */
  public Question asks(PermissionKey permission, ResourceKey resource) {
    return new Question(principal, permission, resource, at, mfa, actingFor);
  }
}
