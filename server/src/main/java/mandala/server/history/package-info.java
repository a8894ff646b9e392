/** What was: revisions and the trail, as far as one may read them. */
@NullMarked
package mandala.server.history;

import org.jspecify.annotations.NullMarked;
