/**
 * What holds for one principal at one instant: a single decision, or the whole access in one sweep
 * (access-model.md, sections 4 to 7).
 */
@NullMarked
package mandala.core.evaluate;

import org.jspecify.annotations.NullMarked;
