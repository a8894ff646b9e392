package mandala.server.platform;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.zip.ZipFile;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.mock.web.MockHttpServletResponse;

/** No cell that goes out is taken for a formula by the program that opens the file. */
class ExportTableTest {

  @ParameterizedTest
  @ValueSource(
      strings = {
        "=1+1",
        "+1",
        "-1",
        "@SUM(A1)",
        " =1",
        "\n=1",
        "\r\n=1",
        "\t=1",
        "\t",
        "\r",
        "\u00a0=1",
        "\ufeff=1",
        "\u2003@x",
        "\uff1d1",
        "  \n -1"
      })
  void whatWouldBeAFormulaIsQuoted(String cell) {
    assertThat(ExportTable.harmless(cell)).isEqualTo("'" + cell);
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "a", "a=1", "1-1", " a", "\na", "'=1", "Noor Haddad"})
  void whatIsNoneStaysAsItIs(String cell) {
    assertThat(ExportTable.harmless(cell)).isEqualTo(cell);
  }

  private static final ExportTable TABLE =
      new ExportTable(
          "access",
          List.of("name", "rights"),
          List.of(
              List.of("Rooms, \"old\"\nand new", 3),
              List.of("=HYPERLINK(\"x\")", -2),
              List.of("Käthe; Ø", 0)));

  @Test
  void separatorsQuotesAndLineEndsStayInsideOfTheirCell() throws IOException {
    MockHttpServletResponse response = new MockHttpServletResponse();
    TABLE.send("csv", response);
    List<String> lines =
        List.of(
            "name,rights",
            "\"Rooms, \"\"old\"\"\nand new\",3",
            "\"'=HYPERLINK(\"\"x\"\")\",-2",
            "Käthe; Ø,0");
    assertThat(response.getContentAsString(StandardCharsets.UTF_8))
        .isEqualTo(String.join("\r\n", lines) + "\r\n");
    assertThat(response.getHeader("Content-Disposition"))
        .isEqualTo("attachment; filename=\"access.csv\"");
  }

  @Test
  void aSheetHoldsTextsAsTextsAndNumbersAsNumbers(@TempDir Path folder) throws IOException {
    MockHttpServletResponse response = new MockHttpServletResponse();
    TABLE.send("xlsx", response);
    Path file = Files.write(folder.resolve("access.xlsx"), response.getContentAsByteArray());
    try (ZipFile zip = new ZipFile(file.toFile())) {
      assertThat(part(zip, "xl/worksheets/sheet1.xml")).contains("<v>3</v>").doesNotContain("<f>");
      assertThat(part(zip, "xl/sharedStrings.xml"))
          .contains("=HYPERLINK(&quot;x&quot;)")
          .contains("K&#xe4;the; &#xd8;");
    }
  }

  private static String part(ZipFile zip, String name) throws IOException {
    try (InputStream in = zip.getInputStream(zip.getEntry(name))) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  @Test
  void anotherFormatIsRefused() {
    assertThatThrownBy(() -> TABLE.send("pdf", new MockHttpServletResponse()))
        .isInstanceOf(Problem.class)
        .hasMessage("Write csv or xlsx.");
  }
}
