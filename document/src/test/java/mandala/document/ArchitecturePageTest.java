package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** The tree that the page of the architecture shows is the tree on disk. */
class ArchitecturePageTest {

  private static final Path ROOT = Path.of("..").toAbsolutePath().normalize();

  /** The rooms of each module as the page lists them. */
  private static Map<String, Set<String>> told() throws IOException {
    String page = Files.readString(ROOT.resolve("docs/architecture.md"));
    Matcher block = Pattern.compile("```tree\n(.*?)```", Pattern.DOTALL).matcher(page);
    assertThat(block.find()).as("a block of the kind tree").isTrue();
    Map<String, Set<String>> rooms = new TreeMap<>();
    Set<String> of = new TreeSet<>();
    for (String line : block.group(1).split("\n")) {
      List<String> words = List.of(line.strip().split(" +"));
      boolean begins = !line.startsWith(" ");
      if (begins) {
        of = rooms.computeIfAbsent(words.getFirst(), _ -> new TreeSet<>());
      }
      of.addAll(begins ? words.subList(1, words.size()) : words);
    }
    return rooms;
  }

  private static Set<String> packages(String module) throws IOException {
    Path root = ROOT.resolve(module + "/src/main/java/mandala/" + module);
    try (Stream<Path> files = Files.walk(root)) {
      return files
          .filter(it -> it.toString().endsWith(".java") && !it.endsWith("package-info.java"))
          .map(it -> root.relativize(it.getParent()).toString().replace('/', '.'))
          .filter(it -> !it.isEmpty())
          .collect(Collectors.toCollection(TreeSet::new));
    }
  }

  private static Set<String> folders(String layer) throws IOException {
    try (Stream<Path> files = Files.list(ROOT.resolve("web/src/" + layer))) {
      return files
          .filter(Files::isDirectory)
          .map(it -> layer + "/" + it.getFileName())
          .collect(Collectors.toCollection(TreeSet::new));
    }
  }

  @Test
  void everyRoomIsListedAndNoneThatIsNot() throws IOException {
    Map<String, Set<String>> told = told();
    for (String module : Set.of("core", "document", "server")) {
      assertThat(told.get(module)).as(module).isEqualTo(packages(module));
    }
    Set<String> web = new TreeSet<>(Set.of("app"));
    for (String layer : Set.of("features", "entities", "shared")) {
      web.addAll(folders(layer));
    }
    assertThat(told.get("web")).as("web").isEqualTo(web);
  }

  @Test
  void whatTheWalksNameIsThere() throws IOException {
    String page = Files.readString(ROOT.resolve("docs/architecture.md"));
    String walks = page.substring(page.indexOf("## One question, walked"));
    Matcher named =
        Pattern.compile("`((?:core|server)/…/[\\w/]+\\.java|web/src/[\\w/]+\\.tsx?)`")
            .matcher(walks);
    int found = 0;
    while (named.find()) {
      String module = named.group(1).substring(0, named.group(1).indexOf('/'));
      String path = named.group(1).replace("…", "src/main/java/mandala/" + module);
      assertThat(ROOT.resolve(path)).exists();
      found++;
    }
    assertThat(found).isGreaterThan(12);
  }
}
