/**
 * What people use of their access: who reports it, how it comes in and how it is kept; entry points
 * {@link mandala.server.use.UseController} and {@link mandala.server.use.UseReadings}.
 */
@NullMarked
package mandala.server.use;

import org.jspecify.annotations.NullMarked;
