/**
 * Accounts and people, as far as one may see them; entry point {@link
 * mandala.server.directory.PeopleController}.
 */
@NullMarked
package mandala.server.directory;

import org.jspecify.annotations.NullMarked;
