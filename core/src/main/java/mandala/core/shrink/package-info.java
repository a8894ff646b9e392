/**
 * Smaller models (section 12): what nobody needs goes, and it is proved that nobody gains, that
 * what is needed stays and that no finding begins.
 */
@NullMarked
package mandala.core.shrink;

import org.jspecify.annotations.NullMarked;
