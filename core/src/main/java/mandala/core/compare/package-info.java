/** What differs between two accesses, and what changes do to everybody. */
@NullMarked
package mandala.core.compare;

import org.jspecify.annotations.NullMarked;
