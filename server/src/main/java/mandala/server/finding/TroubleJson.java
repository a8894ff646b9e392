package mandala.server.finding;

import com.fasterxml.jackson.annotation.JsonTypeInfo;
import mandala.core.detect.Trouble;
import mandala.core.model.Gives;
import mandala.core.model.key.Key;
import tools.jackson.databind.json.JsonMapper;

/** Troubles as the database keeps them, each with the name of its kind. */
final class TroubleJson {

  /** So that what is one of several kinds says which. */
  @JsonTypeInfo(use = JsonTypeInfo.Id.SIMPLE_NAME, property = "is")
  private interface Named {}

  private static final JsonMapper JSON =
      JsonMapper.builder()
          .addMixIn(Trouble.class, Named.class)
          .addMixIn(Key.class, Named.class)
          .addMixIn(Gives.class, Named.class)
          .build();

  private TroubleJson() {}

  static String write(Trouble trouble) {
    return JSON.writerFor(Trouble.class).writeValueAsString(trouble);
  }

  static Trouble read(String text) {
    return JSON.readValue(text, Trouble.class);
  }
}
