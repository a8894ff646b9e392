/**
 * What every feature uses: security, problem documents, the clock; entry point {@link
 * mandala.server.platform.Problem}.
 */
@NullMarked
package mandala.server.platform;

import org.jspecify.annotations.NullMarked;
