package mandala.server.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.server.Caller;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Fields that an account asks of its people: declared, asked, and held to. */
class FieldApiTest extends LifecycleCase {

  private static final String PATH = "/api/accounts/quillhaven/fields";

  @BeforeEach
  void noFields() {
    database.update("delete from account_fields");
  }

  private static Map<String, Object> field(
      String key, String label, List<String> choices, String... required) {
    return Map.of("key", key, "label", label, "choices", choices, "required", required);
  }

  private static final Map<String, Object> BADGE = field("badge", "Badge", List.of(), "person");
  private static final Map<String, Object> SHIFT = field("shift", "Shift", List.of("day", "night"));

  private static JsonNode declare(Caller who, String account, List<Map<String, Object>> fields) {
    return ok(
        who.send("PUT", "/api/accounts/" + account + "/fields", json(Map.of("fields", fields))));
  }

  private static Caller.Answer add(
      Caller who, @Nullable String key, String kind, Map<String, String> attributes) {
    Map<String, Object> after = new HashMap<>();
    after.put("name", "Juno Teasel");
    after.put("kind", kind);
    after.put("account", "quillhaven");
    after.put("attributes", attributes);
    if (kind.equals("service")) {
      after.put("sponsor", "ilse.varga");
    }
    Map<String, Object> edit = new HashMap<>();
    edit.put("kind", "principals");
    edit.put("after", after);
    if (key != null) {
      edit.put("key", key);
    }
    return post(who, "/api/drafts/open/edits", Map.of("edits", List.of(edit)));
  }

  @Test
  void aFieldIsAskedOfWhomItIsFor() {
    Caller ilse = as("ilse.varga");
    JsonNode declared = declare(ilse, "quillhaven", List.of(BADGE, SHIFT));
    assertThat(declared.at("/fields/0/field/label").stringValue()).isEqualTo("Badge");
    assertThat(declared.at("/fields/0/own").booleanValue()).isTrue();
    refused(add(ilse, null, "person", Map.of()), 422, "“Badge” is missing.");
    refused(
        add(ilse, null, "person", Map.of("badge", "7", "shift", "noon")),
        422,
        "'noon' is no choice of “Shift”: use one of day, night.");
    assertThat(ilse.get("/api/drafts/open").json().path("changes"))
        .as("nothing is half done")
        .isEmpty();
    ok(add(ilse, null, "service", Map.of()));
    ok(add(ilse, null, "person", Map.of("badge", "7", "shift", "night")));
  }

  @Test
  void whoIsThereAlreadyStaysAsTheyAre() {
    Caller ilse = as("ilse.varga");
    declare(ilse, "quillhaven", List.of(BADGE));
    String somebody =
        model.engine().catalogue().principals().values().stream()
            .filter(it -> it.account().value().equals("quillhaven"))
            .findFirst()
            .orElseThrow()
            .key()
            .value();
    Map<String, Object> renamed =
        Map.of("kind", "principals", "key", somebody, "set", Map.of("name", "Another name"));
    ok(post(ilse, "/api/drafts/open/edits", Map.of("edits", List.of(renamed))));
    Map<String, Object> changed =
        Map.of(
            "kind",
            "principals",
            "key",
            somebody,
            "set",
            Map.of("attributes", Map.of("title", "Courier")));
    refused(
        post(ilse, "/api/drafts/open/edits", Map.of("edits", List.of(changed))),
        422,
        "“Badge” is missing.");
  }

  @Test
  void aListNeedsTheFieldsToo() {
    Caller ilse = as("ilse.varga");
    declare(ilse, "quillhaven", List.of(BADGE, SHIFT));
    JsonNode looked =
        ok(
            post(
                ilse,
                "/api/people/arrivals/look",
                Map.of(
                    "account", "quillhaven",
                    "columns", Map.of(),
                    "list",
                        "Name,Badge,shift\nAda Finch,7,night\nBas Oller,,day\nCleo Marsh,8,noon\n")));
    assertThat(looked.get("fresh").intValue()).as(looked.toString()).isEqualTo(1);
    assertThat(looked.get("labels").get("badge").stringValue()).isEqualTo("Badge");
    assertThat(looked.get("rows").toString())
        .contains("“Badge” is missing.")
        .contains("'noon' is no choice of “Shift”");
  }

  @Test
  void whatIsDeclaredAboveHoldsBelowAndIsDeclaredAnewThere() {
    Caller ilse = as("ilse.varga");
    declare(ilse, "larkmoor", List.of(BADGE, SHIFT));
    JsonNode below = ok(ilse.get(PATH));
    assertThat(below.get("fields")).hasSize(2);
    assertThat(below.at("/fields/0/own").booleanValue()).isFalse();
    refused(add(ilse, null, "person", Map.of()), 422, "“Badge” is missing.");
    declare(ilse, "quillhaven", List.of(field("badge", "Key card", List.of())));
    ok(add(ilse, null, "person", Map.of()));
    assertThat(declare(ilse, "quillhaven", List.of()).get("fields")).hasSize(2);
    assertThat(ilse.get("/api/trail").body()).contains("Asks its people for Badge, Shift");
  }

  @ParameterizedTest
  @CsvSource({
    "Badge,Badge,Write a key of small letters",
    "unit,Unit,The key 'unit' is taken",
    "'',Badge,Write a key",
    "badge,'',label",
  })
  void badFieldsAreRefused(String key, String label, String why) {
    refused(
        as("ilse.varga")
            .send("PUT", PATH, json(Map.of("fields", List.of(field(key, label, List.of()))))),
        400,
        why);
  }

  @Test
  void twoFieldsOfOneKeyAndStrangersAreRefused() {
    Caller ilse = as("ilse.varga");
    refused(
        ilse.send("PUT", PATH, json(Map.of("fields", List.of(BADGE, BADGE)))),
        400,
        "Two fields have the key");
    Caller noor = as("noor.haddad");
    assertThat(noor.send("PUT", PATH, json(Map.of("fields", List.of(BADGE)))).status())
        .isIn(403, 404);
    assertThat(database.queryForObject("select count(*) from account_fields", Long.class)).isZero();
  }
}
