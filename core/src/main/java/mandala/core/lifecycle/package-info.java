/**
 * People come, move and leave: what ties a principal to the model, and what becomes of each tie;
 * entry point {@link mandala.core.lifecycle.Ties}.
 */
@NullMarked
package mandala.core.lifecycle;

import org.jspecify.annotations.NullMarked;
