/**
 * The trail as it is written, signed and verified; entry point {@link mandala.server.audit.Trail}.
 */
@NullMarked
package mandala.server.audit;

import org.jspecify.annotations.NullMarked;
