package mandala.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import mandala.server.ApiTest;
import mandala.server.Caller;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What the description shows as examples is asked and answered so. */
@ApiTest
@DirtiesContext
class ApiExamplesTest {

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  @Test
  void eachExampleIsAnsweredAsItSays() {
    database.update("update credential set totp_last_step = -1");
    Caller ilse = Caller.as("ilse.varga", environment);
    assertThat(ApiDescription.examples()).hasSizeGreaterThan(8);
    for (ApiDescription.Example it : ApiDescription.examples()) {
      Caller.Answer answer = ilse.get(it.address());
      assertThat(answer.status()).as(it.address()).isEqualTo(200);
      contains(answer.json(), it.answer(), it.address());
    }
  }

  /**
   * Every field that is shown is there; of a list that is shown, each entry is among those told.
   */
  private static void contains(JsonNode told, JsonNode shown, String where) {
    if (shown.isObject()) {
      for (String name : shown.propertyNames()) {
        assertThat(told.has(name)).as("%s tells '%s'", where, name).isTrue();
        contains(told.get(name), shown.get(name), where + " › " + name);
      }
    } else if (shown.isArray()) {
      for (JsonNode each : shown) {
        assertThat(told.valueStream().anyMatch(it -> has(it, each)))
            .as("%s has %s", where, each)
            .isTrue();
      }
    } else {
      assertThat(told).as(where).isEqualTo(shown);
    }
  }

  private static boolean has(JsonNode told, JsonNode shown) {
    try {
      contains(told, shown, "");
      return true;
    } catch (AssertionError _) {
      return false;
    }
  }

  @Test
  void theDescriptionNamesEachQuestionWithItsExample() {
    JsonNode api = new Caller(environment).get("/v3/api-docs").json();
    for (ApiDescription.Example it : ApiDescription.examples()) {
      JsonNode call = api.get("paths").get(it.path()).get("get");
      assertThat(call.get("summary").stringValue()).isEqualTo(it.summary());
      assertThat(call.get("description").stringValue()).contains(it.address());
    }
  }
}
