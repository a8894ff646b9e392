/**
 * What people use, what they need, and what they hold beyond it (section 12); entry point {@link
 * mandala.core.engine.Engine#excess}.
 */
@NullMarked
package mandala.core.excess;

import org.jspecify.annotations.NullMarked;
