/**
 * A model that means exactly the same with less (section 12); entry point {@link
 * mandala.core.tidy.Tidier}.
 */
@NullMarked
package mandala.core.tidy;

import org.jspecify.annotations.NullMarked;
