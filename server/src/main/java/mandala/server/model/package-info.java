/**
 * The model in the database and in memory: import, export, the live engine; entry point {@link
 * mandala.server.model.LiveModel}.
 */
@NullMarked
package mandala.server.model;

import org.jspecify.annotations.NullMarked;
