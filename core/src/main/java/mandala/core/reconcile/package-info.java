/**
 * What another system says its people hold, compared with what the model allows; entry point {@link
 * mandala.core.reconcile.Reconciliation}.
 */
@NullMarked
package mandala.core.reconcile;

import org.jspecify.annotations.NullMarked;
