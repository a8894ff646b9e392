/** The demo: the Larkmoor Museums Trust. */
@NullMarked
package mandala.demo;

import org.jspecify.annotations.NullMarked;
