/** Checks: rules that do not hold now, and expectations proposed from what is. */
@NullMarked
package mandala.server.checks;

import org.jspecify.annotations.NullMarked;
