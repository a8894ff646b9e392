/**
 * Finds what is wrong with a model though no rule of it says so; entry point {@link
 * mandala.core.detect.Detectors}.
 */
@NullMarked
package mandala.core.detect;

import org.jspecify.annotations.NullMarked;
