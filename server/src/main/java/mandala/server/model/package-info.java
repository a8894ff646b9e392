/**
 * The model in the database and in memory: its tables and the live engine; entry point {@link
 * mandala.server.model.LiveModel}.
 */
@NullMarked
package mandala.server.model;

import org.jspecify.annotations.NullMarked;
