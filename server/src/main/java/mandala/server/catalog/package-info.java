/** People, accounts, places and things as lists and pages, a draft laid over. */
@NullMarked
package mandala.server.catalog;

import org.jspecify.annotations.NullMarked;
