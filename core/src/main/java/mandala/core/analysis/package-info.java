/**
 * What is told of a model as a whole, and of a change to it; entry points {@link
 * mandala.core.analysis.Findings} and {@link mandala.core.analysis.Consequences}.
 */
@NullMarked
package mandala.core.analysis;

import org.jspecify.annotations.NullMarked;
