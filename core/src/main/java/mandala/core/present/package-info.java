/**
 * A whole access as it is shown: figure, regions, and accesses put together; entry point {@link
 * mandala.core.present.Access}.
 */
@NullMarked
package mandala.core.present;

import org.jspecify.annotations.NullMarked;
