package mandala.document;

import java.text.Normalizer;
import java.util.Locale;

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
}
