/** The server: one package a feature; entry point {@link mandala.server.MandalaApplication}. */
@NullMarked
package mandala.server;

import org.jspecify.annotations.NullMarked;
