/**
 * Whether the rules of a model hold, and since when not (access-model.md, sections 8 and 9); entry
 * point {@link mandala.core.compliance.Findings}.
 */
@NullMarked
package mandala.core.compliance;

import org.jspecify.annotations.NullMarked;
