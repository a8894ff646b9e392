package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.MatchResult;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The list of dependencies has what the build files declare, and nothing else. */
class DependenciesTest {

  private static final Path ROOT = Path.of("..");

  private static final List<String> MODULES =
      List.of(".", "core", "demo", "document", "server", "bench", "e2e");

  private static final Pattern DEPENDENCY =
      Pattern.compile(
          "<dependency>\\s*<groupId>([^<]+)</groupId>\\s*<artifactId>([^<]+)</artifactId>");

  private static final Pattern LISTED = Pattern.compile("`([^`]+)`");

  private static Set<String> declared() throws IOException {
    Set<String> declared = new TreeSet<>();
    for (String module : MODULES) {
      String pom = Files.readString(ROOT.resolve(module).resolve("pom.xml"));
      DEPENDENCY
          .matcher(pom)
          .results()
          .filter(it -> !it.group(1).equals("mandala"))
          .map(it -> it.group(2).equals("core") ? it.group(1) + ":core" : it.group(2))
          .forEach(declared::add);
    }
    JsonNode web = JsonMapper.shared().readTree(Files.readString(ROOT.resolve("web/package.json")));
    declared.addAll(web.get("dependencies").propertyNames());
    declared.addAll(web.get("devDependencies").propertyNames());
    return declared;
  }

  /** {@return the names in the first column of each table} */
  private static Set<String> listed() throws IOException {
    Set<String> listed = new TreeSet<>();
    for (String line : Files.readAllLines(ROOT.resolve("docs/dependencies.md"))) {
      if (line.startsWith("| `")) {
        String first = line.substring(1, line.indexOf('|', 1));
        LISTED.matcher(first).results().map((MatchResult it) -> it.group(1)).forEach(listed::add);
      }
    }
    return listed;
  }

  @Test
  void everyDeclaredLibraryIsListedWithItsReason() throws IOException {
    assertThat(declared()).hasSizeGreaterThan(40);
    assertThat(listed()).containsExactlyInAnyOrderElementsOf(declared());
  }
}
