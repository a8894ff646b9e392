/**
 * What would give an access, and what must go for it to end; entry points {@link
 * mandala.core.remediation.Additions} and {@link mandala.core.remediation.Removals}.
 */
@NullMarked
package mandala.core.remediation;

import org.jspecify.annotations.NullMarked;
