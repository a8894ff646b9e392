/** What was done, line by line, chained; entry point {@link mandala.server.trail.Trail}. */
@NullMarked
package mandala.server.trail;

import org.jspecify.annotations.NullMarked;
