/**
 * A tidier model that means the same (section 12): proposals, and drafts of them; entry point
 * {@link mandala.server.tidy.TidyController}.
 */
@NullMarked
package mandala.server.tidy;

import org.jspecify.annotations.NullMarked;
