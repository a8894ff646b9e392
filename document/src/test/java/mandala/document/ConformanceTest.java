package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import mandala.core.engine.Engine;
import mandala.core.present.Access;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The engine gives the answers that are kept with the conformance models. */
class ConformanceTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  static Stream<String> cases() {
    return Stream.concat(
        Stream.of("example", "corners"),
        Stream.iterate(1, i -> i <= 8, i -> i + 1).map(i -> "random-" + i));
  }

  private record Case(QuestionLine line, Question question) {}

  private static InputStream open(String name) {
    InputStream in = ConformanceTest.class.getResourceAsStream("/conformance/" + name);
    assertThat(in).as(name).isNotNull();
    return in;
  }

  static Engine engine(String name) throws IOException {
    try (InputStream in = open(name + ".model.json")) {
      return Engine.of(DocumentReader.read(in).orThrow());
    }
  }

  private static List<Case> questions(String name) throws IOException {
    List<Case> cases = new ArrayList<>();
    try (BufferedReader lines =
        new BufferedReader(
            new InputStreamReader(open(name + ".questions.jsonl"), StandardCharsets.UTF_8))) {
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        QuestionLine question = QuestionLine.parse(line);
        assertThat(question.fault()).as(line).isNull();
        cases.add(new Case(question, Objects.requireNonNull(question.question())));
      }
    }
    return cases;
  }

  @ParameterizedTest
  @MethodSource("cases")
  void everyQuestionHasItsVerdict(String name) throws IOException {
    Engine engine = engine(name);
    List<Case> questions = questions(name);
    assertThat(questions).hasSizeGreaterThan(40);
    for (Case it : questions) {
      assertThat(it.line().decide(engine).verdict().word())
          .as(it.question().toString())
          .isEqualTo(it.line().expected());
    }
  }

  /** The corners, each with its reason: together with their engine, which all of them ask. */
  static Stream<Arguments> corners() throws IOException {
    Engine engine = engine("corners");
    List<Arguments> corners = new ArrayList<>();
    try (BufferedReader lines =
        new BufferedReader(
            new InputStreamReader(open("corners.questions.jsonl"), StandardCharsets.UTF_8))) {
      for (String line = lines.readLine(); line != null; line = lines.readLine()) {
        JsonNode why = JSON.readTree(line).get("why");
        assertThat(why).as(line).isNotNull();
        corners.add(Arguments.of(why.stringValue(), QuestionLine.parse(line), engine));
      }
    }
    return corners.stream();
  }

  @ParameterizedTest(name = "{0}")
  @MethodSource("corners")
  void aCornerOfTheModel(String why, QuestionLine line, Engine engine) {
    assertThat(line.decide(engine).verdict().word()).as(why).isEqualTo(line.expected());
  }

  @ParameterizedTest
  @MethodSource("cases")
  void wholeAccessAgreesWithEachVerdict(String name) throws IOException {
    Engine engine = engine(name);
    for (Case it : questions(name)) {
      if (Objects.requireNonNull(it.line().expected()).equals(Verdict.ERROR.word())) {
        continue;
      }
      Access access = engine.access(it.question().session());
      assertThat(access.verdict(it.question().permission(), it.question().resource()).word())
          .as(it.question().toString())
          .isEqualTo(it.line().expected());
    }
  }
}
