/**
 * What a draft, a role, a place or a comparison amounts to; entry points {@link
 * mandala.core.analysis.Consequences} and {@link mandala.core.analysis.AccessMatrix}.
 */
@NullMarked
package mandala.core.analysis;

import org.jspecify.annotations.NullMarked;
