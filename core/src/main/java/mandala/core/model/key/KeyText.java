package mandala.core.model.key;

/** What is true of the text of every key. */
final class KeyText {

  private KeyText() {}

  /**
   * {@return the text}
   *
   * @throws IllegalArgumentException if it is blank
   */
  static String require(String value) {
    if (value.isBlank()) {
      throw new IllegalArgumentException("A key is blank; give it at least one character");
    }
    return value;
  }
}
