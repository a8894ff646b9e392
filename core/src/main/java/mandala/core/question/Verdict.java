package mandala.core.question;

import java.util.Locale;

/** What is true of a principal, a permission and a resource (sections 6 and 7). */
public enum Verdict {
  ERROR,
  INACTIVE,
  NO_DELEGATION,
  NOT_APPLICABLE,
  DENIED,
  ALLOWED,
  BLOCKED,
  NONE;

  /** {@return the word that documents and answers use}, {@code not-applicable} */
  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
