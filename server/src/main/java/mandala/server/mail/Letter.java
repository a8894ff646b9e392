package mandala.server.mail;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** The one form of every mail: a greeting, paragraphs, a link that needs a sign-in, and why. */
public record Letter(String subject, String body) {

  /**
   * {@return a mail}
   *
   * @param name of whom it is for
   * @param paragraphs what it says
   * @param link where it leads, or null
   */
  public static Letter of(
      String name, String subject, List<String> paragraphs, @Nullable String link) {
    StringBuilder body = new StringBuilder("Hello ").append(name).append(",\n");
    paragraphs.forEach(it -> body.append('\n').append(it).append('\n'));
    if (link != null) {
      body.append("\nOpen it (you sign in first):\n").append(link).append('\n');
    }
    body.append(
        "\n--\nMandala sent this because of your notices. Choose which you get by mail under You,"
            + " Notices.\n");
    return new Letter(subject, body.toString());
  }
}
