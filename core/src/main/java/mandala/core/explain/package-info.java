/**
 * Why somebody may do something, and why not: routes with typed reasons; entry point {@link
 * mandala.core.explain.Routes} (access-model.md, sections 2 to 7).
 */
@NullMarked
package mandala.core.explain;

import org.jspecify.annotations.NullMarked;
