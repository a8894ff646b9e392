/** Figures of accounts, kept daily. */
@NullMarked
package mandala.server.figure;

import org.jspecify.annotations.NullMarked;
