/**
 * Blots the personal facts of people who left long ago out of all that is kept; entry points {@link
 * mandala.server.erasure.ErasureController} and {@code Erasures}.
 */
@NullMarked
package mandala.server.erasure;

import org.jspecify.annotations.NullMarked;
