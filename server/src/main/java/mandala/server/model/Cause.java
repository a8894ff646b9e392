package mandala.server.model;

import org.jspecify.annotations.Nullable;

/**
 * Why there is a revision.
 *
 * @param author the key of whoever made it, null for the server itself
 * @param title what it is called, in a few words
 * @param draft the draft that was applied, or null
 * @param takesBack the revision that it takes back, or null
 */
public record Cause(
    @Nullable String author, String title, @Nullable String draft, @Nullable Long takesBack) {

  /** {@return a cause without an author} */
  public static Cause ofServer(String title) {
    return new Cause(null, title, null, null);
  }
}
