/** What accounts ask of their people besides what the model has: declared fields. */
@NullMarked
package mandala.server.field;

import org.jspecify.annotations.NullMarked;
