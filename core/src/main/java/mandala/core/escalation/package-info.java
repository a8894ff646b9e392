/**
 * How somebody could get an access that is not held now, by rights over the model itself
 *
 * <p>(section 11); entry point {@link mandala.core.escalation.EscalationSearch}.
 */
@NullMarked
package mandala.core.escalation;

import org.jspecify.annotations.NullMarked;
