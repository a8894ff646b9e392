/** Who may change what (section 11); entry point {@link mandala.core.authority.Authority}. */
@NullMarked
package mandala.core.authority;

import org.jspecify.annotations.NullMarked;
