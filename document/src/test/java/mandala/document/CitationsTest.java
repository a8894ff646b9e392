package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** The page of the access model has every section that is cited, in code, comments and pages. */
class CitationsTest {

  private static final Path ROOT = Path.of("..");

  private static final Pattern HEADING = Pattern.compile("(?m)^## (\\d+)\\. .+$");

  /** “section 4”, “sections 2 to 6”, “sections 1, 2 and 9”; not those of another document. */
  private static final Pattern CITED =
      Pattern.compile(
          "(?<!RFC \\d{4}, )\\b[Ss]ections? (\\d+(?:(?:, | and |, and | to )\\d+)*)(?![.\\d])");

  /** “section 11, "who may read what"” names a part of the section. */
  private static final Pattern PART = Pattern.compile("\\bsection (\\d+), \"([^\"]+)\"");

  /** {@return the text of each section by its number} */
  private static Map<Integer, String> sections() throws IOException {
    String page = Files.readString(ROOT.resolve("docs/access-model.md"));
    Map<Integer, String> sections = new TreeMap<>();
    Matcher heading = HEADING.matcher(page);
    int number = 0;
    int from = 0;
    while (heading.find()) {
      sections.put(number, page.substring(from, heading.start()));
      number = Integer.parseInt(heading.group(1));
      from = heading.end();
    }
    sections.put(number, page.substring(from));
    sections.remove(0);
    return sections;
  }

  /** What a person wrote; what a build or a running database writes beside it comes and goes. */
  private static final List<String> FOLDERS =
      List.of(
          "docs",
          "core/src",
          "demo/src",
          "document/src",
          "server/src",
          "bench/src",
          "e2e/src",
          "web/src");

  private static List<Path> sources() throws IOException {
    List<Path> sources = new ArrayList<>();
    for (String folder : FOLDERS) {
      try (Stream<Path> all = Files.walk(ROOT.resolve(folder))) {
        all.filter(it -> it.toString().matches(".*\\.(java|tsx?|sql|md)"))
            .filter(it -> !it.getFileName().toString().equals("CitationsTest.java"))
            .forEach(sources::add);
      }
    }
    return sources;
  }

  /** {@return the text of a file, comments that run over lines joined} */
  private static String textOf(Path file) throws IOException {
    return Files.readString(file).replaceAll("\\s*\\n\\s*(?:\\*|//)?\\s*", " ");
  }

  private static List<Integer> numbers(String cited) {
    List<Integer> numbers = new ArrayList<>();
    for (String part : cited.split(", and |, | and ")) {
      String[] ends = part.split(" to ");
      int last = Integer.parseInt(ends[ends.length - 1]);
      for (int it = Integer.parseInt(ends[0]); it <= last; it++) {
        numbers.add(it);
      }
    }
    return numbers;
  }

  @Test
  void sectionsAreNumberedInOrderAndNoneIsEmpty() throws IOException {
    Map<Integer, String> sections = sections();
    assertThat(sections.keySet()).containsExactly(1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12);
    assertThat(sections.values()).allSatisfy(it -> assertThat(it.strip()).hasSizeGreaterThan(200));
  }

  @Test
  void everyCitedSectionExists() throws IOException {
    Map<Integer, String> sections = sections();
    int found = 0;
    for (Path file : sources()) {
      String text = textOf(file);
      for (Matcher cited = CITED.matcher(text); cited.find(); ) {
        found++;
        assertThat(sections.keySet())
            .as("%s: %s", file, cited.group())
            .containsAll(numbers(cited.group(1)));
      }
      for (Matcher part = PART.matcher(text); part.find(); ) {
        String section = sections.getOrDefault(Integer.parseInt(part.group(1)), "");
        assertThat(section.toLowerCase(Locale.ROOT))
            .as("%s: %s", file, part.group())
            .contains(part.group(2).toLowerCase(Locale.ROOT));
      }
    }
    assertThat(found).as("citations were found at all").isGreaterThan(100);
  }

  @Test
  void citationsAreReadInEveryForm() {
    assertThat(numbers("4")).containsExactly(4);
    assertThat(numbers("2 to 5")).containsExactly(2, 3, 4, 5);
    assertThat(numbers("1, 2, and 9")).containsExactly(1, 2, 9);
    assertThat(CITED.matcher("RFC 4180, section 2").find()).isFalse();
    assertThat(CITED.matcher("section 4.2.2.13").find()).isFalse();
    assertThat(CITED.matcher("(access-model.md, sections 13 and 14)").find()).isTrue();
  }
}
