package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

class CharactersTest {

  @ParameterizedTest
  @ValueSource(strings = {"", "Noor", "Ødegård", "花", "🌸", "line\nend", "tab\tstop"})
  void areText(String text) {
    assertThat(Characters.areText(text)).isTrue();
  }

  @ParameterizedTest
  @ValueSource(strings = {"\0", "a\0b", "\ud83c", "\udf38", "\udf38\ud83c", "x\ud83cy"})
  void areNoText(String text) {
    assertThat(Characters.areText(text)).isFalse();
  }

  private static DocumentReader.Result read(String name) {
    return DocumentReader.read(
        """
        {"format": "mandala-model/1",
         "accounts": [{"key": "trust", "name": "%s"}],
         "resources": [{"key": "hall", "account": "trust", "type": "place",
                        "labels": {"wing": "%s"}}]}\
        """
            .formatted(name, name));
  }

  @Test
  void whatIsNoTextIsAFaultOfTheDocumentWithItsPath() {
    for (String escape : new String[] {"a\\u0000", "\\ud800", "\\udc00 x"}) {
      assertThat(read(escape).faults())
          .anySatisfy(fault -> {
            assertThat(fault.path()).isEqualTo("$.accounts[0].name");
            assertThat(fault.next()).contains("U+0000").contains("surrogate");
          })
          .anySatisfy(fault -> assertThat(fault.path()).isEqualTo("$.resources[0].labels.wing"));
    }
    assertThat(read("East").faults()).noneMatch(fault -> fault.path().equals("$.accounts[0].name"));
  }
}
