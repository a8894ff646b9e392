package mandala.document.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.net.URISyntaxException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Objects;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The command line, as somebody at a terminal sees it. */
class CommandLineTest {

  @TempDir private Path folder;

  private record Run(int exit, String out, String err) {}

  private static Run run(Object... args) {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    String[] words = List.of(args).stream().map(Object::toString).toArray(String[]::new);
    int exit = CommandLineTool.run(new PrintWriter(out), new PrintWriter(err), words);
    return new Run(exit, out.toString(), err.toString());
  }

  private static Path kept(String name) {
    try {
      return Path.of(
          Objects.requireNonNull(CommandLineTest.class.getResource("/conformance/" + name))
              .toURI());
    } catch (URISyntaxException e) {
      throw new AssertionError(e);
    }
  }

  @Test
  void checkTellsWhatIsInAFaultlessModel() {
    Run run = run("check", kept("example.model.json"));
    assertThat(run.exit()).isZero();
    assertThat(run.out()).contains("no faults; 6 accounts, 4 units").hasLineCount(1);
  }

  @Test
  void checkPrintsAllFaultsAndExitsOne() throws IOException {
    Path model = folder.resolve("bad.json");
    Files.writeString(
        model, "{\"format\": \"mandala-model/1\", \"accounts\": [{\"key\": \"A\"}, {}]}");
    Run run = run("check", model);
    assertThat(run.exit()).isEqualTo(1);
    assertThat(run.out()).contains("$.accounts[0].key", "$.accounts[1].key", "2 faults");
  }

  @Test
  void evaluatePrintsOneLineForEachQuestionInOrder() throws IOException {
    Path questions = folder.resolve("q.jsonl");
    Files.writeString(
        questions,
        """
        {"principal": "ilse.varga", "permission": "object.view", "resource": "figurehead", "at": "2026-04-10T09:00:00Z"}
        {"principal": "nobody", "permission": "object.view", "resource": "figurehead", "at": "2026-04-10T09:00:00Z"}
        not json
        {"principal": "ilse.varga", "permission": "object.view", "resource": "figurehead", "at": "soon"}

        {"principal": "ilse.varga", "permission": "object.view", "resource": "pearl-log", "at": "2026-04-10T09:00:00Z"}
        """);
    Run run = run("evaluate", kept("example.model.json"), questions);
    assertThat(run.exit()).isZero();
    assertThat(run.out().lines())
        .hasSize(5)
        .satisfiesExactly(
            line -> assertThat(line).contains("\"verdict\":\"allowed\"", "\"mfa\":false"),
            line -> assertThat(line).contains("\"error\"", "there is no principal 'nobody'"),
            line -> assertThat(line).contains("\"error\"", "the line is not JSON"),
            line -> assertThat(line).contains("\"error\"", "an instant like"),
            line -> assertThat(line).contains("\"verdict\":\"none\""));
  }

  @Test
  void expectComparesAndExitsOneWithTheDifferences() throws IOException {
    assertThat(
            run(
                "evaluate",
                "--expect",
                kept("corners.model.json"),
                kept("corners.questions.jsonl")))
        .isEqualTo(new Run(0, "46 questions, 0 differ" + System.lineSeparator(), ""));
    Path questions = folder.resolve("q.jsonl");
    Files.writeString(
        questions,
        "{\"principal\": \"ilse.varga\", \"permission\": \"object.view\", \"resource\": \"figurehead\","
            + " \"at\": \"2026-04-10T09:00:00Z\", \"verdict\": \"denied\"}");
    Run run = run("evaluate", "--expect", kept("example.model.json"), questions);
    assertThat(run.exit()).isEqualTo(1);
    assertThat(run.out())
        .contains("line 1: expected denied, found allowed", "1 questions, 1 differ");
  }

  @Test
  void explainPrintsRoutesAndReasons() {
    Run run =
        run(
            "explain",
            kept("example.model.json"),
            "--principal",
            "tomas.brandt",
            "--permission",
            "loan.approve",
            "--resource",
            "loan-115",
            "--at",
            "2026-04-10T13:00:00Z");
    assertThat(run.exit()).isZero();
    assertThat(run.out())
        .startsWith("none: tomas.brandt loan.approve on loan-115")
        .contains("Routes that give it now: none")
        .contains("Loans lead (role, second factor) → Loan sign-off (set)")
        .contains("but not activated")
        .contains("but needs a second factor, for the role Loans lead");
  }

  @Test
  void explainOfADelegateNamesTheDelegation() {
    Run run =
        run(
            "explain",
            kept("example.model.json"),
            "--principal",
            "ilse.varga",
            "--permission",
            "loan.draft",
            "--resource",
            "loan-114",
            "--at",
            "2026-08-10T09:00:00Z",
            "--acting-for",
            "tomas.brandt");
    assertThat(run.out())
        .startsWith("allowed: ilse.varga loan.draft on loan-114")
        .contains("through the delegation tomas-to-ilse")
        .contains("but just-in-time assignments are not passed on to a delegate");
  }

  @Test
  void whatCannotBeReadIsToldWithWhatToDo() {
    Run run = run("check", folder.resolve("nothing.json"));
    assertThat(run.exit()).isEqualTo(2);
    assertThat(run.err()).contains("the file cannot be read. Check the path");
    assertThat(
            run(
                    "explain",
                    kept("example.model.json"),
                    "--principal",
                    "x",
                    "--permission",
                    "y",
                    "--resource",
                    "z")
                .err())
        .contains("The question cannot be asked: there is no principal 'x'");
    assertThat(run("explain", kept("example.model.json")).exit()).isEqualTo(2);
    assertThat(run().exit()).isEqualTo(2);
  }

  @Test
  void everyCommandHasHelp() {
    for (String command : List.of("check", "evaluate", "explain", "demo")) {
      assertThat(run(command, "--help").out()).as(command).contains("Usage: mandala " + command);
    }
  }

  @Test
  void theDemoIsADocumentWithoutFaults() throws IOException {
    Path model = folder.resolve("demo.json");
    Files.writeString(model, run("demo").out());
    assertThat(run("check", model).out()).contains("no faults", "9 accounts", "119 permissions");
  }

  private static final String STATEMENTS =
      """
      {"format": "mandala-model/1",
       "expectations": [
         {"key": "nobody-everything", "form": "cannot", "subjects": ["signed-in"],
          "permissions": ["object.view"], "scope": [{"everything": true}]},
         {"key": "anonymous-none", "form": "cannot", "subjects": ["anonymous"],
          "permissions": ["object.edit"], "scope": [{"everything": true}]}]}
      """;

  @Test
  void testAccessTellsWhichStatementsHoldAndWritesJUnit() throws IOException {
    Path statements = folder.resolve("expectations.json");
    Files.writeString(statements, STATEMENTS);
    Path junit = folder.resolve("access.xml");
    Run run =
        run(
            "test-access",
            kept("example.model.json"),
            statements,
            "--at",
            "2026-04-10T09:00:00Z",
            "--junit",
            junit);
    assertThat(run.exit()).as(run.err()).isEqualTo(1);
    assertThat(run.out())
        .contains("BROKEN  nobody-everything", "holds   anonymous-none")
        .contains("Ada Finch on 2 resources");
    assertThat(Files.readString(junit))
        .contains("<testcase classname=\"expectation\" name=\"nobody-everything")
        .contains("<failure message=");
  }

  @Test
  void testAccessRefusesADocumentWithMoreThanStatements() throws IOException {
    Path statements = folder.resolve("expectations.json");
    Files.writeString(
        statements, "{\"format\": \"mandala-model/1\", \"accounts\": [{\"key\": \"a\"}]}");
    Run run = run("test-access", kept("example.model.json"), statements);
    assertThat(run.exit()).isEqualTo(1);
    assertThat(run.err()).contains("$.accounts", "can only hold expectations and exclusions");
    Run none = run("test-access", kept("example.model.json"), folder.resolve("nowhere.json"));
    assertThat(none.exit()).isEqualTo(2);
    assertThat(none.err()).contains("There is no file");
  }
}
