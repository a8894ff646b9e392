/** Principals, groups and units in numbers (access-model.md, section 2). */
@NullMarked
package mandala.core.compiled.directory;

import org.jspecify.annotations.NullMarked;
