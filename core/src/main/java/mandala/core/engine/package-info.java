/**
 * The facade: one model's answers; entry point {@link mandala.core.engine.Engine}
 * (access-model.md,\n * sections 2 to 9).
 */
@NullMarked
package mandala.core.engine;

import org.jspecify.annotations.NullMarked;
