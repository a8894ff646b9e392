/**
 * What people hold and do not need (section 12), with what may be told of it; entry point {@link
 * mandala.server.excess.ExcessController}.
 */
@NullMarked
package mandala.server.excess;

import org.jspecify.annotations.NullMarked;
