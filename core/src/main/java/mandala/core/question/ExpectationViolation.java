package mandala.core.question;

import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * What breaks an expectation (section 9).
 *
 * @param principal who lacks or has what they should not; null for the form {@code count}
 * @param permission the permission; null for the form {@code count}
 * @param resource the first resource, in the order of the tree
 * @param many on how many resources; for {@code count} how many principals there are on that one
 */
public record ExpectationViolation(
    @Nullable PrincipalKey principal,
    @Nullable PermissionKey permission,
    ResourceKey resource,
    long many) {}
