/** Questions about access, answered as far as the asker may know. */
@NullMarked
package mandala.server.question;

import org.jspecify.annotations.NullMarked;
