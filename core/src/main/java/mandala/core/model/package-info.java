/**
 * The access model as immutable values; entry point {@link mandala.core.model.AccessModel}
 * (access-model.md, sections 1, 10 and 11).
 */
@NullMarked
package mandala.core.model;

import org.jspecify.annotations.NullMarked;
