/** Keys: one type for each kind of thing. */
@NullMarked
package mandala.core.model.key;

import org.jspecify.annotations.NullMarked;
