/** Who can do something somewhere: the question turned around (access-model.md, section 7). */
@NullMarked
package mandala.core.whocan;

import org.jspecify.annotations.NullMarked;
