/** Long work of people: with progress, cancel, an owner, and a result that is kept for a while. */
@NullMarked
package mandala.server.job;

import org.jspecify.annotations.NullMarked;
