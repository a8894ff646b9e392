/** A change as data, and its pure application; entry point {@link mandala.core.change.Change}. */
@NullMarked
package mandala.core.change;

import org.jspecify.annotations.NullMarked;
