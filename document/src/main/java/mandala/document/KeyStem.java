package mandala.document;

import java.text.Normalizer;
import java.util.Locale;
import java.util.function.Predicate;

/** What a key is made of where somebody gives a name only. */
public final class KeyStem {

  private KeyStem() {}

  /** {@return a name in small letters and digits with hyphens}, empty where it has none of these */
  public static String of(String name) {
    return Normalizer.normalize(name, Normalizer.Form.NFD)
        .replaceAll("\\p{M}", "")
        .toLowerCase(Locale.ROOT)
        .replaceAll("[^a-z0-9]+", "-")
        .replaceAll("^-|-$", "");
  }

  /**
   * {@return a key made of a name that nothing has}: with a number where something has it
   *
   * @param otherwise what it is made of where the name has no letter or digit
   */
  public static String free(String name, String otherwise, Predicate<String> taken) {
    String stem = of(name);
    if (stem.isEmpty()) {
      stem = otherwise;
    }
    String key = stem;
    for (int i = 2; taken.test(key); i++) {
      key = stem + "-" + i;
    }
    return key;
  }
}
