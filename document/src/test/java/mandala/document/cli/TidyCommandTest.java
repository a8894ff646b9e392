package mandala.document.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.tidy.ModelSize;
import mandala.demo.Larkmoor;
import mandala.document.DocumentReader;
import mandala.document.DocumentWriter;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The command {@code tidy} at a terminal; that a tidier model means the same is tested in core. */
class TidyCommandTest {

  @TempDir private Path folder;

  private record Run(int exit, String out, String err) {}

  private static Run run(Object... args) {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    int exit =
        CommandLineTool.run(
            new PrintWriter(out),
            new PrintWriter(err, true),
            Arrays.stream(args).map(Object::toString).toArray(String[]::new));
    return new Run(exit, out.toString(), err.toString());
  }

  private Path written(AccessModel model) throws IOException {
    Path file = folder.resolve("model.json");
    Files.writeString(file, DocumentWriter.write(model));
    return file;
  }

  @Test
  void theDemoGetsSmallerAndItsTwinRolesAreFound() throws IOException {
    AccessModel larkmoor = Larkmoor.model();
    Path out = folder.resolve("tidy.json");
    Run run =
        run(
            "tidy",
            written(larkmoor),
            "--at",
            "2026-11-27T09:00:00Z",
            "--format",
            "json",
            "--write",
            out);
    assertThat(run.exit()).as(run.err()).isZero();
    JsonNode said = JsonMapper.builder().build().readTree(run.out());
    AccessModel tidier;
    try (var in = Files.newInputStream(out)) {
      tidier = DocumentReader.read(in).orThrow();
    }
    assertThat(said.get("before").intValue()).isEqualTo(ModelSize.of(larkmoor).total());
    assertThat(said.get("after").intValue())
        .isEqualTo(ModelSize.of(tidier).total())
        .isLessThan(said.get("before").intValue());
    assertThat(said.get("changes")).isNotEmpty();
    assertThat(said.get("changes").toString()).contains("gives exactly the same");
    Run again = run("tidy", out, "--at", "2026-11-27T09:00:00Z", "--write", out);
    assertThat(again.out()).hasLineCount(1).matches("(\\d+) statements before, \\1 after\\R");
  }

  @Test
  void whatManyAreGivenTogetherComesToARole() throws IOException {
    StringBuilder assignments = new StringBuilder();
    StringBuilder people = new StringBuilder();
    for (int who = 0; who < 6; who++) {
      people.append(
          "%s{\"key\": \"p%d\", \"kind\": \"person\", \"account\": \"acme\"}"
              .formatted(who == 0 ? "" : ", ", who));
      for (String set : List.of("one", "two", "three")) {
        assignments.append(
            ("%s{\"key\": \"a%d.%s\", \"subject\": \"person:p%d\", \"gives\": \"set:%s\","
                    + " \"scope\": [{\"account\": \"acme\"}]}")
                .formatted(assignments.isEmpty() ? "" : ", ", who, set, who, set));
      }
    }
    Path model = folder.resolve("many.json");
    Files.writeString(
        model,
        """
        {"format": "mandala-model/1", "accounts": [{"key": "acme"}],
         "principals": [%s],
         "resourceTypes": [{"key": "record"}],
         "permissions": [
           {"key": "a", "on": ["record"], "class": "view", "risk": "low"},
           {"key": "b", "on": ["record"], "class": "view", "risk": "low"},
           {"key": "c", "on": ["record"], "class": "view", "risk": "low"}],
         "permissionSets": [{"key": "one", "allow": ["a"]}, {"key": "two", "allow": ["b"]},
           {"key": "three", "allow": ["c"]}],
         "assignments": [%s]}
        """
            .formatted(people, assignments));
    Path out = folder.resolve("mined.json");
    assertThat(run("tidy", model, "--write", out).out())
        .startsWith("21 statements before, 21 after");
    Run mined = run("tidy", model, "--roles", "--write", out);
    assertThat(mined.exit()).as(mined.err()).isZero();
    assertThat(mined.out())
        .startsWith("21 statements before, 12 after")
        .contains("role “one + three + two” replaces 3 assignments each for 6 subjects");
  }

  @Test
  void aCallThatIsWrongWritesNothing() throws IOException {
    Path model = written(Larkmoor.model());
    Path out = folder.resolve("none.json");
    for (List<Object> args :
        List.<List<Object>>of(
            List.of("tidy", model),
            List.of("tidy", model, "--at", "soon", "--write", out),
            List.of("tidy", folder.resolve("missing.json"), "--write", out),
            List.of("tidy", model, "--write", folder.resolve("no/such/folder.json")))) {
      Run run = run(args.toArray());
      assertThat(run.exit()).as(args.toString()).isEqualTo(2);
      assertThat(run.err()).isNotBlank();
      assertThat(out).doesNotExist();
    }
  }

  @Test
  void aFaultyModelIsRefusedWithItsFaults() throws IOException {
    Path faulty = folder.resolve("faulty.json");
    Files.writeString(faulty, "{\"format\": \"mandala-model/1\", \"units\": [{\"key\": \"u\"}]}");
    Path out = folder.resolve("none.json");
    Run run = run("tidy", faulty, "--write", out);
    assertThat(run.exit()).isEqualTo(1);
    assertThat(run.err()).contains("$.units[0].account");
    assertThat(out).doesNotExist();
  }
}
