/**
 * The command line over documents: check, evaluate, explain, demo; entry point {@link
 * mandala.document.cli.CommandLineTool}. It needs no database and no server.
 */
@NullMarked
package mandala.document.cli;

import org.jspecify.annotations.NullMarked;
