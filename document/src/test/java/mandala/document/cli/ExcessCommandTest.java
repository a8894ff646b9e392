package mandala.document.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import mandala.core.model.AccessModel;
import mandala.demo.Larkmoor;
import mandala.document.DocumentWriter;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The command {@code excess} at a terminal, about the demo; what it computes is tested in core. */
class ExcessCommandTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  @TempDir private static Path folder;
  private static Path model;
  private static AccessModel larkmoor;

  private Path use;

  @BeforeAll
  static void theDemoIsWritten() throws IOException {
    larkmoor = Larkmoor.model();
    model = folder.resolve("larkmoor.json");
    Files.writeString(model, DocumentWriter.write(larkmoor));
  }

  @BeforeEach
  void odileViewsALoan() throws IOException {
    use =
        use(
            """
            {"principal": "odile.farrow", "permission": "loan.view", "resource": "q-loan-101", \
            "day": "2026-11-20", "count": 3}
            {"principal": "who.knows", "permission": "loan.view", "resource": "q-loan-101", \
            "day": "2026-11-20"}
            """);
  }

  private static Path use(String text) throws IOException {
    Path file = folder.resolve("use.jsonl");
    Files.writeString(file, text);
    return file;
  }

  private record Run(int exit, String out, String err) {}

  private static Run run(Object... args) {
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    List<String> words = new ArrayList<>(List.of("excess"));
    for (Object each : args) {
      words.add(each.toString());
    }
    if (!words.contains("--at")) {
      words.addAll(List.of("--at", "2026-11-27T09:00:00Z"));
    }
    int exit =
        CommandLineTool.run(
            new PrintWriter(out), new PrintWriter(err, true), words.toArray(String[]::new));
    return new Run(exit, out.toString(), err.toString());
  }

  @Test
  void everybodyIsALineOfJsonInOrderOfKeyAndAnonymousIsLast() {
    Run run = run(model, use, "--days", 30, "--format", "json");
    assertThat(run.exit()).as(run.err()).isZero();
    assertThat(run.err())
        .isEqualTo("1 record names somebody or something that the model does not have\n");
    List<JsonNode> lines = run.out().lines().map(JSON::readTree).toList();
    List<String> keys = lines.stream().map(it -> it.get("principal").stringValue()).toList();
    assertThat(keys).hasSize(larkmoor.principals().size() + 1).endsWith("anonymous");
    assertThat(keys.subList(0, keys.size() - 1)).isSorted();
    JsonNode odile = lines.get(keys.indexOf("odile.farrow"));
    assertThat(odile.get("needed").longValue()).isPositive();
    assertThat(odile.has("excessRights")).isFalse();
    for (JsonNode it : lines) {
      assertThat(it.get("rights").longValue())
          .isEqualTo(
              it.get("needed").longValue()
                  + it.get("young").longValue()
                  + it.get("excess").longValue());
    }
  }

  @Test
  void oneIsAskedAloneAsTextOrCsvWithEachRight() {
    Run text = run(model, use, "--days", 30, "--principal", "odile.farrow");
    assertThat(text.exit()).as(text.err()).isZero();
    assertThat(text.out()).startsWith("exposure ").contains("excessExposure", "odile.farrow");
    Run csv =
        run(model, use, "--days", 30, "--principal", "odile.farrow", "--rights", "--format", "csv");
    assertThat(csv.out())
        .startsWith("principal,permission,resource\r\n")
        .doesNotContain("loan.view,q-loan-101\r")
        .contains("odile.farrow,");
    assertThat(run(model, use, "--days", 30, "--principal", "anonymous").out())
        .contains("anonymous");
  }

  @Test
  void aWindowOutOfItsRangeIsAWrongCall() {
    for (int days : List.of(0, -5, 4000)) {
      Run run = run(model, use, "--days", days);
      assertThat(run.exit()).isEqualTo(2);
      assertThat(run.out()).isEmpty();
      assertThat(run.err()).contains("--days: " + days + " days are no window", "from 1 to 3660");
    }
    assertThat(run(model, use).exit()).isEqualTo(2);
    assertThat(run(model, use, "--days", "many").exit()).isEqualTo(2);
    assertThat(run(model, use, "--days", 3, "--at", "tomorrow").exit()).isEqualTo(2);
    assertThat(run(model, use, "--days", 3, "--principal", "nobody").exit()).isEqualTo(2);
    assertThat(run(model, folder.resolve("none"), "--days", 3).exit()).isEqualTo(2);
  }

  @Test
  void faultsOfBothFilesAreToldAndNothingIsComputed() throws IOException {
    Path faulty = folder.resolve("faulty.json");
    Files.writeString(faulty, "{\"format\": \"mandala-model/1\", \"units\": [{\"key\": \"u\"}]}");
    Path bad = use("{\"principal\": \"a\"}\n\nno\n");
    Run both = run(faulty, bad, "--days", 3);
    assertThat(both.exit()).isEqualTo(1);
    assertThat(both.out()).isEmpty();
    assertThat(both.err()).contains("$.units[0].account", "line 1: $.permission", "line 3: $");
    Run one = run(model, bad, "--days", 3);
    assertThat(one.exit()).isEqualTo(1);
    assertThat(one.err())
        .contains("line 3: $: this is not JSON", "4 faults; nothing was computed.");
  }
}
