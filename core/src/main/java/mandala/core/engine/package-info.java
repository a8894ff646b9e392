/**
 * The snapshot and its answers: verdicts and whole access; entry point {@link
 * mandala.core.engine.Engine} (access-model.md, sections 2 to 7).
 */
@NullMarked
package mandala.core.engine;

import org.jspecify.annotations.NullMarked;
