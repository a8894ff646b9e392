/** Tokens with which programs call: made, shown once, limited, revoked. */
@NullMarked
package mandala.server.token;

import org.jspecify.annotations.NullMarked;
