/** Permissions, what they imply and their gates, as bits (access-model.md, sections 3 and 6). */
@NullMarked
package mandala.core.compiled.rights;

import org.jspecify.annotations.NullMarked;
