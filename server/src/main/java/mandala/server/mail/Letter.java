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

  /**
   * {@return a mail with a link that lets its reader choose a password}
   *
   * @param until how long the link works
   */
  public static Letter signIn(
      String name, String subject, List<String> paragraphs, String link, String until) {
    StringBuilder body = new StringBuilder("Hello ").append(name).append(",\n");
    paragraphs.forEach(it -> body.append('\n').append(it).append('\n'));
    body.append("\nOpen this link:\n").append(link).append("\n\n").append(until).append('\n');
    body.append(
        "If you did not expect this mail, you need do nothing. Pass the link on to nobody.\n");
    return new Letter(subject, body.toString());
  }
}
