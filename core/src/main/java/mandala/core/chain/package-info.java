/**
 * How somebody could come to an access that is not held now, by rights over the model itself
 * (section 11); entry point {@link mandala.core.chain.Chains}.
 */
@NullMarked
package mandala.core.chain;

import org.jspecify.annotations.NullMarked;
