package mandala.core.explain;

import mandala.core.model.Clause;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * The clause that covers the resource.
 *
 * @param viewScope whether it stands in the view scope
 * @param index its number in its scope, from 0
 * @param named the deepest resource that it names at or above the resource (section 4, seals), or
 *     null
 */
public record Coverage(boolean viewScope, int index, Clause clause, @Nullable ResourceKey named) {}
