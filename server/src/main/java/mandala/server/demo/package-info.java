/**
 * The demo's people, to be chosen by a click; entry point {@link
 * mandala.server.demo.DemoController}.
 */
@NullMarked
package mandala.server.demo;

import org.jspecify.annotations.NullMarked;
