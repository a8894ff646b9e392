package mandala.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** No cell that goes out is taken for a formula by the program that opens the file. */
class SheetTest {

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
}
