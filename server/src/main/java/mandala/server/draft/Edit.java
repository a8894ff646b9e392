package mandala.server.draft;

import jakarta.validation.constraints.NotBlank;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * One edit of one thing, as a screen sends it. Things are written as in a document.
 *
 * @param kind the name of the kind's array in a document, {@code groups}
 * @param key which thing; null for one that comes, and for guest memberships and activations
 * @param before for what has no key: the thing as it is
 * @param after the whole thing as it is to be
 * @param set fields to set; null takes a field away
 * @param add entries to add to lists, by field
 * @param drop entries to take out of lists, by field
 * @param remove whether the thing is to go
 * @param mergeInto of a resource: the resource into which it is merged, what lies below moves along
 */
record Edit(
    @NotBlank String kind,
    @Nullable String key,
    @Nullable JsonNode before,
    @Nullable JsonNode after,
    @Nullable JsonNode set,
    @Nullable JsonNode add,
    @Nullable JsonNode drop,
    @Nullable Boolean remove,
    @Nullable String mergeInto) {}
