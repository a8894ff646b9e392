/**
 * What is assigned and where it holds, packed; only {@link mandala.core.compiled.grants.GrantEntry}
 * knows the layout (access-model.md, section 4).
 */
@NullMarked
package mandala.core.compiled.grants;

import org.jspecify.annotations.NullMarked;
