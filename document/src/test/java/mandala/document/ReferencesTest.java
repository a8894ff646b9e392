package mandala.document;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.LongStream;
import java.util.stream.StreamSupport;
import mandala.core.RandomModels;
import mandala.core.model.AccessModel;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.demo.Larkmoor;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What a thing names is found by one table: none is missed, none is made up. */
class ReferencesTest {

  private static final JsonMapper JSON = JsonMapper.builder().build();

  static LongStream seeds() {
    return LongStream.rangeClosed(1, 100);
  }

  private static List<String> keysOf(AccessModel model) {
    List<String> keys = new ArrayList<>();
    for (Kind kind : Kind.values()) {
      for (Thing thing : model.things(kind)) {
        if (thing.key() != null) {
          keys.add(thing.key().value());
        }
      }
    }
    return keys;
  }

  /** Every text in a thing that is the key of another, with or without its kind before it. */
  private static Set<String> mentioned(JsonNode json, Set<String> keys) {
    Set<String> found = new HashSet<>();
    if (json.isString()) {
      String text = json.stringValue();
      String key = text.substring(text.indexOf(':') + 1);
      if (keys.contains(key)) {
        found.add(key);
      }
    }
    if (json.isObject()) {
      json.properties().stream()
          .filter(it -> !Set.of("key", "attributes", "labels", "code").contains(it.getKey()))
          .forEach(it -> found.addAll(mentioned(it.getValue(), keys)));
    }
    if (json.isArray()) {
      StreamSupport.stream(json.spliterator(), false)
          .forEach(it -> found.addAll(mentioned(it, keys)));
    }
    return found;
  }

  private static void assertAllFound(AccessModel model) {
    Set<String> keys = new HashSet<>(keysOf(model));
    for (Kind kind : Kind.values()) {
      for (Thing thing : model.things(kind)) {
        JsonNode json = JSON.readTree(ThingDocument.write(thing));
        Set<String> found = new HashSet<>();
        References.of(thing).forEach(it -> found.add(it.key()));
        assertThat(found).as("%s", json).containsAll(mentioned(json, keys));
        JsonNode hidden = References.rewritten(kind, json, (_, key) -> "~" + key);
        assertThat(mentioned(hidden, keys)).as("%s", hidden).isEmpty();
        assertThat(References.rewritten(kind, hidden, (_, key) -> key.substring(1)))
            .isEqualTo(json);
      }
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void everyKeyThatARandomThingMentionsIsAReference(long seed) {
    assertAllFound(RandomModels.model(seed));
  }

  @Test
  void everyKeyThatTheDemoMentionsIsAReference() {
    assertAllFound(Larkmoor.model());
  }
}
