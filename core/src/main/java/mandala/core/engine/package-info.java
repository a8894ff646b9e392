/**
 * The facade: one model's answers; entry point {@link mandala.core.engine.Engine} (access-model.md,
 * sections 2 to 9).
 */
@NullMarked
package mandala.core.engine;

import org.jspecify.annotations.NullMarked;
