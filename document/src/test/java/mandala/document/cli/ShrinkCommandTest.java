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
import mandala.core.model.key.AssignmentKey;
import mandala.document.DocumentReader;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The command {@code shrink} at a terminal; that a smaller model is sound is tested in core. */
class ShrinkCommandTest {

  /** Ada edits and bea may edit, both by a group, everywhere; ada alone may delete. */
  private static final String MODEL =
      """
      {"format": "mandala-model/1",
       "accounts": [{"key": "acme"}],
       "principals": [
         {"key": "ada", "kind": "person", "account": "acme"},
         {"key": "bea", "kind": "person", "account": "acme"}],
       "groups": [{"key": "editors", "account": "acme",
         "members": ["person:ada", "person:bea"]}],
       "resourceTypes": [{"key": "record"}],
       "permissions": [
         {"key": "view", "on": ["record"], "class": "view", "risk": "low"},
         {"key": "edit", "on": ["record"], "class": "change", "risk": "high", "implies": ["view"]},
         {"key": "delete", "on": ["record"], "class": "change", "risk": "critical"}],
       "permissionSets": [{"key": "editing", "allow": ["edit"]}],
       "resources": [
         {"key": "r1", "type": "record", "account": "acme"},
         {"key": "r2", "type": "record", "account": "acme"}],
       "assignments": [
         {"key": "a1", "subject": "group:editors", "gives": "set:editing",
          "scope": [{"account": "acme"}]},
         {"key": "a2", "subject": "person:ada", "gives": "permission:delete",
          "scope": [{"account": "acme"}]}]}
      """;

  @TempDir private Path folder;
  private Path model = Path.of("");
  private Path use = Path.of("");
  private Path written = Path.of("");

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

  private Run shrink(Object... more) {
    Object[] first = {"shrink", model, use, "--at", "2026-11-20T12:00:00Z", "--days", "180"};
    Object[] all = Arrays.copyOf(first, first.length + more.length + 2);
    System.arraycopy(more, 0, all, first.length, more.length);
    all[all.length - 2] = "--write";
    all[all.length - 1] = written;
    return run(all);
  }

  @BeforeEach
  void files() throws IOException {
    model = Files.writeString(folder.resolve("model.json"), MODEL);
    use =
        Files.writeString(
            folder.resolve("use.jsonl"),
            """
            {"principal": "ada", "permission": "edit", "resource": "r1", "day": "2026-11-20"}
            {"principal": "bea", "permission": "view", "resource": "r1", "day": "2026-11-01"}
            """);
    written = folder.resolve("smaller.json");
  }

  private AccessModel smaller() throws IOException {
    try (var in = Files.newInputStream(written)) {
      return DocumentReader.read(in).orThrow();
    }
  }

  @Test
  void whatNobodyNeedsGoesAndTheFiguresSayHowFar() throws IOException {
    Run run = shrink("--format", "json");
    assertThat(run.exit()).as(run.err()).isZero();
    JsonNode said = JsonMapper.builder().build().readTree(run.out());
    // both edit and view two records (22 each), ada deletes them (60); needed: 11 and 1
    assertThat(said.get("before").intValue()).isEqualTo(104);
    assertThat(said.get("floor").intValue()).isEqualTo(12);
    assertThat(said.get("after").intValue()).isEqualTo(12);
    assertThat(said.get("assignmentsBefore").intValue()).isEqualTo(2);
    assertThat(said.get("assignmentsAfter").intValue())
        .isEqualTo(smaller().assignments().size())
        .isLessThanOrEqualTo(4);
    assertThat(said.get("changes").toString()).contains("its 1 holder did not need it in 180 days");
  }

  @Test
  void atTightZeroOnlyWhatNobodyNeedsGoes() throws IOException {
    Run run = shrink("--tight", "0");
    assertThat(run.exit()).as(run.err()).isZero();
    assertThat(run.out()).startsWith("exposure 104 before, 44 after, floor 12 (65 % of the way)");
    assertThat(smaller().assignments())
        .extracting(it -> it.key())
        .containsExactly(new AssignmentKey("a1"));
  }

  @Test
  void onlyWhatGivesSomethingToTheSelectionIsTouched() throws IOException {
    Run run = shrink("--for", "person:ada", "--tight", "0");
    assertThat(run.exit()).as(run.err()).isZero();
    assertThat(smaller().assignments()).hasSize(1);
    assertThat(shrink("--for", "person:bea", "--tight", "0").exit()).isZero();
    assertThat(smaller().assignments()).hasSize(2);
  }

  @Test
  void aCallThatIsWrongWritesNothing() {
    for (List<Object> args :
        List.<List<Object>>of(
            List.of("--tight", "2"),
            List.of("--tight", "much"),
            List.of("--for", "person:nobody"),
            List.of("--for", "role:editing"),
            List.of("--for", "ada"),
            List.of("--format", "csv"),
            List.of("--days", "0"))) {
      Run run = shrink(args.toArray());
      assertThat(run.exit()).as(args.toString()).isEqualTo(2);
      assertThat(run.err()).as(args.toString()).isNotBlank();
      assertThat(written).doesNotExist();
    }
  }

  @Test
  void faultsOfBothFilesAreToldAndNothingIsWritten() throws IOException {
    Files.writeString(use, "{\"principal\": \"ada\", \"count\": 0}\n");
    Run run = shrink();
    assertThat(run.exit()).isEqualTo(1);
    assertThat(run.err()).contains("1").contains("nothing was computed");
    assertThat(written).doesNotExist();
  }
}
