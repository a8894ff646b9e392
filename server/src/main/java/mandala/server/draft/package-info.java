/**
 * Drafts: kept, judged, shared, approved, applied; entry point {@link
 * mandala.server.draft.DraftController}.
 */
@NullMarked
package mandala.server.draft;

import org.jspecify.annotations.NullMarked;
