/** Resources in the order of the tree, and stretches of it (access-model.md, section 1). */
@NullMarked
package mandala.core.compiled.space;

import org.jspecify.annotations.NullMarked;
