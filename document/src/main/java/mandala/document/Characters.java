package mandala.document;

/**
 * Which characters a text of a model may have: all of Unicode's but U+0000, which no store keeps.
 */
public final class Characters {

  /** What a text must be, for a message. */
  public static final String EXPECTED =
      "a text without the character U+0000 and without half of a surrogate pair";

  private Characters() {}

  /** {@return whether a string has neither U+0000 nor a surrogate without its other half} */
  public static boolean areText(String text) {
    for (int i = 0; i < text.length(); i++) {
      char at = text.charAt(i);
      if (at == 0) {
        return false;
      }
      if (Character.isHighSurrogate(at)
          && i + 1 < text.length()
          && Character.isLowSurrogate(text.charAt(i + 1))) {
        i++;
      } else if (Character.isSurrogate(at)) {
        return false;
      }
    }
    return true;
  }
}
