package mandala.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** What Mandala says is plain English: words that users stumbled over do not come back. */
class VoiceTest {

  /** Words of an older voice, in what is shown to somebody. */
  private static final Pattern OLD =
      Pattern.compile(
          "\\b(is told|are told|may be told|stands?|mend(ed|s)?|[Ww]hom one|which one may|one needs"
              + "|[Ss]witch(es|ed|ing)? (it |them )?(on|off)|doors?|[Ll]oosen|No such stretch"
              + "|[Ii]nto the draft|[Ll]eave out: |by what|any more|[Nn]othing fits|say it"
              + "|begins to be broken|left with nothing|merely|whoever (is|has)|may be read)\\b");

  private static final Pattern JAVA = Pattern.compile("\"((?:[^\"\\\\\\n]|\\\\.)*)\"");

  /** Text between tags, and strings; not class names, keys or addresses. */
  private static final Pattern WEB =
      Pattern.compile("\"([^\"\\n]*)\"|`([^`]*)`|[>}]([^<>{}=;()`\"]*)[<{]");

  private static final Pattern COMMENT =
      Pattern.compile("/\\*.*?\\*/|(?m)^\\s*//.*$|\\{/\\*.*?\\*/\\}", Pattern.DOTALL);

  private static List<Path> files(String folder, String ending) throws IOException {
    try (Stream<Path> all = Files.walk(Path.of("..", folder))) {
      return all.filter(it -> it.toString().endsWith(ending))
          .filter(it -> !it.toString().contains(".test.") && !it.toString().contains("schema.ts"))
          .filter(it -> !it.toString().contains("node_modules"))
          .toList();
    }
  }

  /** {@return the texts with a space in them that a file shows, without its comments} */
  private static List<String> texts(Path file, Pattern pattern) throws IOException {
    List<String> texts = new ArrayList<>();
    String code = COMMENT.matcher(Files.readString(file)).replaceAll("");
    for (Matcher it = pattern.matcher(code); it.find(); ) {
      for (int group = 1; group <= it.groupCount(); group++) {
        String text = it.group(group);
        if (text != null && text.strip().contains(" ") && !text.startsWith("select ")) {
          texts.add(text.strip());
        }
      }
    }
    return texts;
  }

  private static List<String> relapses(String folder, String ending, Pattern pattern)
      throws IOException {
    List<String> found = new ArrayList<>();
    for (Path file : files(folder, ending)) {
      for (String text : texts(file, pattern)) {
        if (OLD.matcher(text).find()) {
          found.add(file.getFileName() + ": " + text);
        }
      }
    }
    return found;
  }

  @ParameterizedTest
  @ValueSource(strings = {"core/src/main", "document/src/main", "server/src/main"})
  void messagesUseNoWordOfTheOldVoice(String folder) throws IOException {
    assertThat(relapses(folder, ".java", JAVA)).isEmpty();
  }

  @Test
  void screensUseNoWordOfTheOldVoice() throws IOException {
    List<String> found = new ArrayList<>(relapses("web/src", ".tsx", WEB));
    found.addAll(relapses("web/src", ".ts", WEB));
    assertThat(found).isEmpty();
  }

  @Test
  void anOldWordIsFound() {
    assertThat(OLD.matcher("What it does is told once what is wrong is mended.").find()).isTrue();
    assertThat(OLD.matcher("3 more whom one may not see").find()).isTrue();
    assertThat(OLD.matcher("Outdoors and understanding").find()).isFalse();
  }

  /** What a refusal says beside its title: a full sentence, and so room for the next step. */
  @Test
  void aRefusalSaysWhatIsWrongAndWhatToDoNext() throws IOException {
    Pattern refusal =
        Pattern.compile(
            "Problem\\.\\w+\\(\\s*\"((?:[^\"\\\\]|\\\\.)*)\",\\s*\"((?:[^\"\\\\]|\\\\.)*)\"\\)");
    List<String> found = new ArrayList<>();
    int refusals = 0;
    for (Path file : files("server/src/main", ".java")) {
      String code = COMMENT.matcher(Files.readString(file)).replaceAll("");
      for (Matcher it = refusal.matcher(code); it.find(); ) {
        refusals++;
        if (!it.group(2).endsWith(".") || it.group(1).endsWith(".") || it.group(1).isBlank()) {
          found.add(file.getFileName() + ": " + it.group(1) + " / " + it.group(2));
        }
      }
    }
    assertThat(refusals).as("refusals with both parts in one place").isGreaterThan(5);
    assertThat(found).isEmpty();
  }
}
