/**
 * Tables that share: a changed table is a new table, the old one stays as it was; entry points
 * {@link mandala.core.table.Table} and {@link mandala.core.table.Register}.
 */
@NullMarked
package mandala.core.table;

import org.jspecify.annotations.NullMarked;
