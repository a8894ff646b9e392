package mandala.core.analysis;

import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;

/** One side of a comparison, as it is named. */
public sealed interface Compared {

  /** A principal of the model. */
  record Person(PrincipalKey key) implements Compared {}

  /** Somebody new who holds just a role ({@link HypotheticalPrincipal#ofRole}). */
  record OfRole(RoleKey key) implements Compared {}

  /** Somebody new of a pattern ({@link HypotheticalPrincipal#ofPattern}). */
  record OfPattern(PatternKey key) implements Compared {}

  /** What somebody's colleagues have in common ({@link Peers}). */
  record OfColleagues(PrincipalKey key) implements Compared {}

  /**
   * {@return what a text names}: a principal's key, {@code role:K}, {@code pattern:K}, or {@code
   * colleagues:K} for those of a principal
   *
   * @throws IllegalArgumentException if it names nothing of these
   */
  static Compared parse(String named) {
    int colon = named.indexOf(':');
    String key = named.substring(colon + 1);
    if (key.isBlank()) {
      throw new IllegalArgumentException("'" + named + "' names nobody and nothing");
    }
    return switch (colon < 0 ? "" : named.substring(0, colon)) {
      case "" -> new Person(new PrincipalKey(key));
      case "role" -> new OfRole(new RoleKey(key));
      case "pattern" -> new OfPattern(new PatternKey(key));
      case "colleagues" -> new OfColleagues(new PrincipalKey(key));
      default ->
          throw new IllegalArgumentException(
              "'"
                  + named
                  + "' names nothing to compare with. Write a principal's key, role:K, pattern:K"
                  + " or colleagues:K");
    };
  }
}
