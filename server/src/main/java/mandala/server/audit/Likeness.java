package mandala.server.audit;

import java.util.Collection;

/** Patterns of texts that contain others, for {@code ilike any} of PostgreSQL. */
public final class Likeness {

  private Likeness() {}

  /** {@return a pattern of whatever contains a text}, for each of some texts */
  public static String[] of(Collection<String> texts) {
    return texts.stream()
        .map(it -> "%" + it.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%")
        .toArray(String[]::new);
  }
}
