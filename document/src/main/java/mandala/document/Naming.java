package mandala.document;

import mandala.core.model.Kind;
import mandala.core.model.key.ResourceKey;

/**
 * Which things a text may name to its reader (section 11, "who may read what"). Whatever it does
 * not tell is spoken of without name and key, so that no sentence, route or finding can tell more
 * than the reader may read.
 */
@FunctionalInterface
public interface Naming {

  /** Names everything: for those who have the whole document. */
  Naming ALL = (_, _) -> true;

  /**
   * {@return whether a thing may be named}
   *
   * @param key of that kind; it may be one that there is not
   */
  boolean tells(Kind kind, String key);

  /** {@return whether a place may be named}, an implicit one as the thing that it is */
  default boolean tells(ResourceKey place) {
    String text = place.value();
    int colon = text.indexOf(':');
    return tells(kindOf(place), colon < 0 ? text : text.substring(colon + 1));
  }

  /** {@return the kind of thing that a place is} (section 1, implicit resources) */
  static Kind kindOf(ResourceKey place) {
    String text = place.value();
    return text.startsWith("account:")
        ? Kind.ACCOUNTS
        : text.startsWith("unit:")
            ? Kind.UNITS
            : text.startsWith("group:") ? Kind.GROUPS : Kind.RESOURCES;
  }

  /** {@return what stands for the name of something that may not be named} */
  static String hidden(Kind kind) {
    return switch (kind) {
      case PRINCIPALS -> "someone you can't see";
      case RESOURCES -> "a place you can't see";
      case ACCOUNTS, EXCLUSIONS, EXPECTATIONS, ASSIGNMENTS, ACTIVATIONS ->
          "an " + kind.word() + " you can't see";
      default -> "a " + kind.word() + " you can't see";
    };
  }
}
