/**
 * Questions about access, cut to what the asker may know; entry point {@link
 * mandala.server.access.Sight}.
 */
@NullMarked
package mandala.server.access;

import org.jspecify.annotations.NullMarked;
