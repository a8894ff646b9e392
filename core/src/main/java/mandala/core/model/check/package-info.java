/**
 * The rules of a whole model; entry point {@link mandala.core.model.check.ModelCheck}
 * (access-model.md, sections 1, 2, 4, 10, 11).
 */
@NullMarked
package mandala.core.model.check;

import org.jspecify.annotations.NullMarked;
