/**
 * Models of any size from a seed, and what questions about them cost; entry point {@link
 * mandala.bench.Bench}.
 */
@NullMarked
package mandala.bench;

import org.jspecify.annotations.NullMarked;
