/**
 * Why somebody may do something, and why not: routes with typed reasons; entry point {@link
 * mandala.core.route.Routes} (access-model.md, sections 2 to 7).
 */
@NullMarked
package mandala.core.route;

import org.jspecify.annotations.NullMarked;
