package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.util.stream.LongStream;
import mandala.core.RandomModels;
import mandala.core.model.AccessModel;
import mandala.demo.Larkmoor;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Writing a model and reading it back gives the same model, and the same text again. */
class RoundTripTest {

  private static void assertRoundTrip(AccessModel model) {
    String text = DocumentWriter.write(model);
    DocumentReader.Result result = DocumentReader.read(text);
    assertThat(result.faults()).isEmpty();
    assertThat(result.model()).isEqualTo(model.sorted());
    assertThat(DocumentWriter.write(result.model())).isEqualTo(text);
  }

  static LongStream seeds() {
    return LongStream.rangeClosed(1, 100);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void randomModels(long seed) {
    assertRoundTrip(RandomModels.model(seed));
  }

  @ParameterizedTest
  @ValueSource(strings = {"example", "corners", "random-1", "random-7"})
  void keptModels(String name) throws IOException {
    try (InputStream in = getClass().getResourceAsStream("/conformance/" + name + ".model.json")) {
      assertRoundTrip(DocumentReader.read(in).orThrow());
    }
  }

  @Test
  void whoAnswersForWhat() {
    AccessModel model =
        DocumentReader.read(
                """
                {"format": "mandala-model/1",
                 "accounts": [{"key": "a"}],
                 "patterns": [{"key": "p", "owners": ["ann"]}],
                 "principals": [
                   {"key": "ann", "kind": "person", "account": "a", "email": "ann@example.org"},
                   {"key": "bot", "kind": "service", "account": "a", "sponsor": "ann"}],
                 "guests": [{"principal": "bot", "account": "a", "sponsor": "ann"}],
                 "roles": [{"key": "r", "owners": ["ann", "bot"]}]}
                """)
            .orThrow();
    assertRoundTrip(model);
    assertThat(model.roles().getFirst().owners()).hasSize(2);
    assertThat(model.guests().getFirst().sponsor()).isNotNull();
  }

  @Test
  void theDemo() {
    assertRoundTrip(Larkmoor.model());
    assertThat(DocumentWriter.write(Larkmoor.model()))
        .isEqualTo(DocumentWriter.write(Larkmoor.model()));
  }

  @Test
  void theOrderOfTheDocumentDoesNotShowInWhatIsWritten() {
    AccessModel model = RandomModels.model(5);
    AccessModel.Builder backwards = AccessModel.builder();
    for (var kind : mandala.core.model.Kind.values()) {
      backwards.addAll(model.things(kind).reversed());
    }
    assertThat(DocumentWriter.write(backwards.build())).isEqualTo(DocumentWriter.write(model));
  }

  @Test
  void defaultsAreNotWritten() {
    String text =
        """
        {"format": "mandala-model/1", "accounts": [{"key": "a", "status": "active", "sealed": false}]}
        """;
    assertThat(DocumentWriter.write(DocumentReader.read(text).orThrow()))
        .isEqualTo(
            """
            {
             "format" : "mandala-model/1",
             "accounts" : [
              {
               "key" : "a"
              }
             ]
            }
            """);
  }
}
