/**
 * Connected systems: what they say their people hold, compared with the model; entry point {@link
 * mandala.server.reconcile.SystemController}.
 */
@NullMarked
package mandala.server.reconcile;

import org.jspecify.annotations.NullMarked;
