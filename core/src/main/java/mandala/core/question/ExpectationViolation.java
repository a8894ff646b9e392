package mandala.core.question;

import mandala.core.model.Key;
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
    Key.@Nullable Principal principal,
    Key.@Nullable Permission permission,
    Key.Resource resource,
    long many) {}
