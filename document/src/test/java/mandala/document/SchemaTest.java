package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.LongStream;
import mandala.core.RandomModels;
import mandala.core.model.Kind;
import mandala.demo.Larkmoor;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The published schema and the reader agree. */
class SchemaTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();
  private static final String SCHEMA_TEXT = text("/mandala/document/mandala-model-1.schema.json");
  private static final Schema SCHEMA =
      SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12).getSchema(SCHEMA_TEXT);

  private static String text(String name) {
    try (InputStream in = Objects.requireNonNull(SchemaTest.class.getResourceAsStream(name))) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    } catch (IOException e) {
      throw new AssertionError(e);
    }
  }

  private static boolean fits(String document) {
    return SCHEMA.validate(JSON.readTree(document)).isEmpty();
  }

  static LongStream seeds() {
    return LongStream.rangeClosed(1, 60);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsWrittenFits(long seed) {
    String document = DocumentWriter.write(RandomModels.model(seed));
    assertThat(SCHEMA.validate(JSON.readTree(document))).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(strings = {"example", "corners", "random-1", "random-2", "random-3"})
  void keptModelsFit(String name) {
    assertThat(SCHEMA.validate(JSON.readTree(text("/conformance/" + name + ".model.json"))))
        .isEmpty();
  }

  @Test
  void theDemoFits() {
    assertThat(fits(DocumentWriter.write(Larkmoor.model()))).isTrue();
  }

  /** The reader tells which fields it knows when it meets one that it does not. */
  @ParameterizedTest
  @EnumSource(Kind.class)
  void bothKnowTheSameFields(Kind kind) {
    String document =
        "{\"format\": \"mandala-model/1\", \"%s\": [{\"no-such-field\": 1}]}"
            .formatted(kind.field());
    String known =
        DocumentReader.read(document).faults().stream()
            .filter(fault -> fault.path().endsWith("no-such-field"))
            .findFirst()
            .orElseThrow()
            .next();
    Set<String> read = new TreeSet<>(Set.of(known.substring(known.indexOf(": ") + 2).split(", ")));
    JsonNode properties =
        JSON.readTree(SCHEMA_TEXT).at("/properties/" + kind.field() + "/items/properties");
    assertThat(new TreeSet<>(properties.propertyNames())).isEqualTo(read);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      textBlock =
          """
          "accounts": [{"key": "A b"}]
          "accounts": [{"key": "a", "colour": "red"}]
          "accounts": [{"key": "a", "sealed": "yes"}]
          "accounts": [{"name": "no key"}]
          "principals": [{"key": "p", "account": "a"}]
          "principals": [{"key": "p", "kind": "robot", "account": "a"}]
          "permissions": [{"key": "p", "on": [], "class": "view", "risk": "low"}]
          "assignments": [{"key": "m", "subject": "person:x", "gives": "role:r", "scope": [{}]}]
          "assignments": [{"key": "m", "subject": "person:x", "gives": "role:r", "scope": [{"everything": false}]}]
          "assignments": [{"key": "m", "subject": "person:x", "gives": "role:r", "scope": [{"labels": {}}]}]
          "assignments": [{"key": "m", "subject": "person:x", "gives": "role:r", "effect": "deny", "scope": []}]
          "assignments": [{"key": "m", "subject": "robot:x", "gives": "role:r", "scope": []}]
          "assignments": [{"key": "m", "subject": "person:x", "gives": "role:r"}]
          "assignments": [{"key": "m", "subject": "person:x", "gives": "role:r", "scope": [], "from": "2026-01-01"}]
          "activations": [{"principal": "p", "assignment": "m"}]
          "delegations": [{"key": "d", "principal": "p", "delegate": "q", "limit": "some", "scope": []}]
          "groups": [{"key": "g", "account": "a", "rule": {"all": []}}]
          "groups": [{"key": "g", "account": "a", "rule": {"all": [{"attribute": "x", "op": "present", "value": "y"}]}}]
          "things": []
          """)
  void whatTheSchemaRefusesTheReaderRefusesToo(String part) {
    String document = "{\"format\": \"mandala-model/1\", " + part + "}";
    assertThat(fits(document)).isFalse();
    assertThat(DocumentReader.read(document).faults()).isNotEmpty();
  }
}
