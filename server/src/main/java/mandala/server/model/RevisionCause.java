package mandala.server.model;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Why there is a revision.
 *
 * @param author the key of whoever made it, null for the server itself
 * @param title what it is called, in a few words
 * @param draft the draft that was applied, or null
 * @param takesBack the revision that it takes back, or null
 * @param reason why it was made, in its author's words, or null
 * @param reference the number of the ticket or order behind it, or null
 * @param approvedBy keys of those who approved exactly what was applied
 */
public record RevisionCause(
    @Nullable String author,
    String title,
    @Nullable String draft,
    @Nullable Long takesBack,
    @Nullable String reason,
    @Nullable String reference,
    List<String> approvedBy) {

  /** Copies its list. */
  public RevisionCause {
    approvedBy = List.copyOf(approvedBy);
  }

  /** A revision of which nothing more is said than what it is called. */
  public RevisionCause(
      @Nullable String author, String title, @Nullable String draft, @Nullable Long takesBack) {
    this(author, title, draft, takesBack, null, null, List.of());
  }

  /** {@return a cause without an author} */
  public static RevisionCause ofServer(String title) {
    return new RevisionCause(null, title, null, null);
  }
}
