/**
 * Signing in and out, the second factor, the first owner; entry point {@link
 * mandala.server.session.SignIn}.
 */
@NullMarked
package mandala.server.session;

import org.jspecify.annotations.NullMarked;
