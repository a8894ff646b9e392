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

  private static final UseColumns COLUMNS =
      new UseColumns("user", "act", "what", "time", "times", "for");

  private List<Fault> readTable(String text, UseColumns columns, int most) {
    try {
      return UseReader.readTable(
          new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8)),
          columns,
          most,
          (path, it) -> {
            records.add(it);
            return it.principal().value().equals("unwanted")
                ? new Fault(path, "is not wanted", "Leave it out")
                : null;
          });
    } catch (IOException e) {
      throw new AssertionError(e);
    }
  }

  @Test
  void aTableIsReadByItsColumnsInAnyOrder() {
    String text =
        """
        \uFEFFtime,note,user,what,act,for,times\r
        2026-04-13T23:59:00Z,"a, b",a,r,p,,\r
        \r
        2026-04-13, x ,b,r,p,a, 4 \r
        """;
    assertThat(readTable(text, COLUMNS, 9)).isEmpty();
    assertThat(records).containsExactly(record("a", 1, null), record("b", 4, "a"));
  }

  @Test
  void columnsThatAreLeftOutHaveTheirOrdinaryValues() {
    UseColumns few = new UseColumns("user", "act", "what", "time", null, null);
    assertThat(readTable("user,act,what,time\na,p,r,2026-04-13\n", few, 9)).isEmpty();
    assertThat(records).containsExactly(record("a", 1, null));
    assertThat(
            readTable("principal,permission,resource,day\na,p,r,2026-04-13", UseColumns.PLAIN, 9))
        .isEmpty();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      quoteCharacter = '`',
      value = {
        "a,,r,2026-04-13,1, | line 2: act | there is nothing",
        "a,p,r,2026-02-30,1, | line 2: time | is no day",
        "a,p,r,13.04.2026,1, | line 2: time | is no day",
        "a,p,r,2026-04-13T10:00:00+02:00,1, | line 2: time | is no day",
        "a,p,r,2026-04-13,some, | line 2: times | is no whole number",
        "a,p,r,2026-04-13,0, | line 2:.count | the count is 0",
        "a,p,r,2026-04-13,1,a | line 2:.actingFor | acts for themselves",
        "unwanted,p,r,2026-04-13,1, | line 2: | is not wanted",
        "a,p,r,2026-04-13,1,\"cut | after line | a quoted cell does not end",
      })
  void faultsOfATableNameTheirLine(String line, String where, String what) {
    List<Fault> faults = readTable("user,act,what,time,times,for\n" + line, COLUMNS, 9);
    assertThat(faults).hasSize(1);
    assertThat(faults.getFirst().path()).startsWith(where);
    assertThat(faults.getFirst().what()).contains(what);
  }

  @Test
  void aTableNeedsItsColumnsOnceEach() {
    assertThat(readTable("user,act,what\na,p,r\n", COLUMNS, 9))
        .extracting(Fault::what)
        .containsExactly("there is no column 'time'");
    assertThat(readTable("user,act,what,time,user\na,p,r,2026-04-13,b\n", COLUMNS, 9))
        .extracting(Fault::what)
        .containsExactly("there are several columns 'user'");
    assertThat(readTable("", COLUMNS, 9)).hasSize(4);
    assertThat(records).isEmpty();
  }

  @Test
  void readingStopsAfterSoManyFaults() throws IOException {
    String rows = "user,act,what,time\n" + ",p,r,2026-04-13\n".repeat(50) + "a,p,r,2026-04-13\n";
    assertThat(readTable(rows, COLUMNS, 5)).hasSize(5);
    List<Fault> faults =
        UseReader.read(
            new ByteArrayInputStream("no\n".repeat(50).getBytes(StandardCharsets.UTF_8)),
            5,
            (_, _) -> null);
    assertThat(faults).hasSize(5);
    assertThat(records).isEmpty();
  }
}
