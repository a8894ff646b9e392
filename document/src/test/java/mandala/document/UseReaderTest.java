package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import mandala.core.excess.UseRecord;
import mandala.core.model.check.Fault;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** A file of use is read line by line; each fault names its line. */
class UseReaderTest {

  private final List<UseRecord> records = new ArrayList<>();

  private List<Fault> read(byte[] text) {
    try {
      return UseReader.read(new ByteArrayInputStream(text), records::add);
    } catch (IOException e) {
      throw new AssertionError(e);
    }
  }

  private List<Fault> read(String text) {
    return read(text.getBytes(StandardCharsets.UTF_8));
  }

  private static UseRecord record(String who, long count, @Nullable String actingFor) {
    return new UseRecord(
        new PrincipalKey(who),
        new PermissionKey("p"),
        new ResourceKey("r"),
        LocalDate.parse("2026-04-13"),
        count,
        actingFor == null ? null : new PrincipalKey(actingFor));
  }

  private static final String REST =
      "\"permission\": \"p\", \"resource\": \"r\", \"day\": \"2026-04-13\"";

  @Test
  void recordsComeInTheirOrder() {
    assertThat(
            read(
                """
                \uFEFF{"principal": "a", %1$s}

                {"principal": "b", %1$s, "count": 4, "actingFor": null}\r
                {"principal": "c", %1$s, "actingFor": "a"}
                """
                    .formatted(REST)))
        .isEmpty();
    assertThat(records)
        .containsExactly(record("a", 1, null), record("b", 4, null), record("c", 1, "a"));
  }

  @Test
  void anEmptyFileHasNoRecords() {
    assertThat(read("")).isEmpty();
    assertThat(records).isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "{\"principal\": \"a\"                                  | this is not JSON",
        "7                                                      | this is no JSON object",
        "{\"principal\": \"a\", \"principal\": \"b\", REST}     | this is not JSON: Duplicate",
        "{REST}                                                 | 'principal' is missing",
        "{\"principal\": \" \", REST}                           | instead of a key",
        "{\"principal\": 5, REST}                               | found 5 instead of a text",
        "{\"principal\": \"a\", REST, \"count\": 0}             | the count is 0",
        "{\"principal\": \"a\", REST, \"count\": -3}            | the count is -3",
        "{\"principal\": \"a\", REST, \"count\": 1.5}           | instead of a whole number",
        "{\"principal\": \"a\", REST, \"count\": null}          | instead of a whole number",
        "{\"principal\": \"a\", REST, \"count\": 99999999999999999999} | a whole number",
        "{\"principal\": \"a\", REST, \"actingFor\": \"a\"}     | 'a' acts for themselves",
        "{\"principal\": \"a\", REST, \"actingFor\": \"anonymous\"} | nobody acts for",
        "{\"principal\": \"anonymous\", REST, \"actingFor\": \"a\"} | nobody acts for",
        "{\"principal\": \"a\", REST, \"why\": \"so\"}          | the field 'why' is unknown here",
        "{\"principal\": \"a\", \"permission\": \"p\", \"resource\": \"r\", \"day\": \"2026-02-30\"}"
            + " | instead of a day like 2026-05-01",
        "{\"principal\": \"a\", \"permission\": \"p\", \"resource\": \"r\", \"day\": \"13.4.2026\"}"
            + " | instead of a day like 2026-05-01",
      })
  void whatIsWrongIsToldWithItsLineAndTheOthersAreRead(String line, String said) {
    String good = "{\"principal\": \"good\", " + REST + "}\n";
    List<Fault> faults = read(good + line.strip().replace("REST", REST) + "\n" + good);
    assertThat(faults).as(line).hasSize(1);
    assertThat(faults.getFirst().path()).startsWith("line 2: $");
    assertThat(faults.getFirst().what()).contains(said.strip());
    assertThat(faults.getFirst().next()).matches("[A-Z].*[^.]");
    assertThat(records).containsExactly(record("good", 1, null), record("good", 1, null));
  }

  @Test
  void allFaultsOfALineAreTold() {
    assertThat(read("{\"principal\": 1, \"permission\": 2, \"day\": 3}"))
        .extracting(Fault::path)
        .containsExactlyInAnyOrder(
            "line 1: $.principal", "line 1: $.permission", "line 1: $.resource", "line 1: $.day");
    assertThat(records).isEmpty();
  }

  @Test
  void aFileThatIsCutOffIsFaultyInItsLastLine() {
    String whole = "{\"principal\": \"a\", " + REST + "}\n";
    assertThat(read(whole + whole.substring(0, 30)))
        .singleElement()
        .satisfies(it -> assertThat(it.path()).isEqualTo("line 2: $"));
  }

  @Test
  void whatIsNoTextIsTold() {
    assertThat(read(new byte[] {'{', (byte) 0xFF, '}', '\n'}))
        .singleElement()
        .satisfies(it -> assertThat(it.what()).isEqualTo("the file is not UTF-8"));
  }
}
