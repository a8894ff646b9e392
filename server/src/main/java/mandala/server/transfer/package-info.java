/**
 * Import and export of the whole model; entry point {@link
 * mandala.server.transfer.TransferController}.
 */
@NullMarked
package mandala.server.transfer;

import org.jspecify.annotations.NullMarked;
