package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.io.PrintWriter;
import java.io.StringWriter;
import java.net.URISyntaxException;
import java.net.URL;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.IntStream;
import mandala.document.cli.CommandLineTool;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The command line tells the excess that is kept with the conformance models (section 12). */
class ExcessConformanceTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  static IntStream cases() {
    return IntStream.rangeClosed(1, 5);
  }

  private static Path file(String name) throws URISyntaxException {
    URL found = ExcessConformanceTest.class.getResource("/conformance/" + name);
    assertThat(found).as(name).isNotNull();
    return Path.of(found.toURI());
  }

  @ParameterizedTest(name = "excess-{0}")
  @MethodSource("cases")
  void eachPrincipalHasTheExcessThatIsKept(int number) throws IOException, URISyntaxException {
    List<String> expected = Files.readAllLines(file("excess-" + number + ".excess.jsonl"));
    JsonNode asked = JSON.readTree(expected.getFirst());
    StringWriter out = new StringWriter();
    StringWriter err = new StringWriter();
    int exit =
        CommandLineTool.run(
            new PrintWriter(out),
            new PrintWriter(err, true),
            "excess",
            file("excess-" + number + ".model.json").toString(),
            file("excess-" + number + ".use.jsonl").toString(),
            "--at",
            asked.get("at").stringValue(),
            "--days",
            asked.get("days").toString(),
            "--rights",
            "--format",
            "json");
    assertThat(exit).as(err.toString()).isZero();
    assertThat(out.toString().lines().map(JSON::readTree).toList())
        .isEqualTo(expected.stream().skip(1).map(JSON::readTree).toList());
    assertThat(err.toString()).startsWith(asked.get("strangers") + " record");
  }

  @ParameterizedTest(name = "excess-{0}")
  @MethodSource("cases")
  void itsRecordsHaveNoFault(int number) throws IOException, URISyntaxException {
    try (InputStream in = Files.newInputStream(file("excess-" + number + ".use.jsonl"))) {
      assertThat(UseReader.read(in, _ -> {})).isEmpty();
    }
  }
}
