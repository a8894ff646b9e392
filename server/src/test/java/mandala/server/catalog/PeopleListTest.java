package mandala.server.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import mandala.server.ApiTest;
import mandala.server.Caller;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import tools.jackson.databind.JsonNode;

/** The list of people: sorted, exported, brought as a list, and kept as a view. */
@ApiTest
class PeopleListTest {

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  @BeforeEach
  void codesAgain() {
    database.update("update credential set totp_last_step = -1");
    database.update("delete from saved_view");
  }

  private Caller as(String who) {
    return Caller.as(who, environment);
  }

  private static List<String> values(JsonNode rows, String field) {
    List<String> values = new ArrayList<>();
    rows.forEach(row -> values.add(row.path(field).asString("")));
    return values;
  }

  @Test
  void theListIsSortedByTheServer() {
    Caller ilse = as("ilse.varga");
    List<String> units =
        values(ilse.get("/api/people?sort=-unit&limit=60").json().get("rows"), "unitName");
    assertThat(units).isSortedAccordingTo(Comparator.reverseOrder());
    List<String> names =
        values(ilse.get("/api/people?sort=-name&limit=60").json().get("rows"), "name");
    assertThat(names).isSortedAccordingTo(String.CASE_INSENSITIVE_ORDER.reversed()).isNotEmpty();
    Caller.Answer refused = ilse.get("/api/people?sort=rights");
    assertThat(refused.status()).isEqualTo(400);
    assertThat(refused.body()).contains("can't be sorted by 'rights'");
  }

  @Test
  void theListGoesIntoAFileAsItIsFilteredAndSorted() {
    Caller ilse = as("ilse.varga");
    JsonNode list =
        ilse.get("/api/people?account=quillhaven&state=active&sort=seen&limit=200").json();
    String file = ilse.get("/api/people/file?account=quillhaven&state=active&sort=seen").body();
    List<String> lines = file.lines().toList();
    assertThat(lines.getFirst()).startsWith("name,key,address,kind,state");
    assertThat(lines).hasSize(list.get("total").intValue() + 1);
    assertThat(lines.get(1)).contains(list.at("/rows/0/key").stringValue());
    assertThat(ilse.get("/api/people/file?format=xlsx").status()).isEqualTo(200);
    assertThat(ilse.get("/api/people/file?format=pdf").status()).isEqualTo(400);
  }

  @Test
  void aPastedListNamesPeopleByNameAddressOrKey() {
    Caller ilse = as("ilse.varga");
    JsonNode named =
        ilse.send(
                "POST",
                "/api/people/named",
                "{\"lines\":[\"tess  ALDERGATE\",\"pia.lund\",\"Nobody At All\",\"\",\"pia.lund\"]}")
            .json();
    assertThat(values(named.get("found"), "key")).containsExactly("tess.aldergate", "pia.lund");
    assertThat(named.get("unknown").toString()).isEqualTo("[\"Nobody At All\"]");
    assertThat(named.get("ambiguous")).isEmpty();
    JsonNode unseen =
        as("dario.penn").send("POST", "/api/people/named", "{\"lines\":[\"ilse.varga\"]}").json();
    assertThat(unseen.get("found")).as("he may not read her").isEmpty();
    assertThat(unseen.get("unknown").toString()).contains("ilse.varga");
  }

  @Test
  void viewsAreKeptForEachPersonAlone() {
    Caller ilse = as("ilse.varga");
    String view = "{\"page\":\"/people\",\"name\":\"%s\",\"query\":\"%s\"}";
    assertThat(
            ilse.send("PUT", "/api/saved-views", view.formatted("Guests", "state=invited"))
                .status())
        .isEqualTo(200);
    JsonNode kept =
        ilse.send("PUT", "/api/saved-views", view.formatted("Guests", "state=left")).json();
    assertThat(kept).hasSize(1);
    assertThat(kept.at("/0/query").stringValue()).isEqualTo("state=left");
    assertThat(as("marten.holloway").get("/api/saved-views").json()).isEmpty();
    assertThat(
            ilse.send(
                    "PUT",
                    "/api/saved-views",
                    "{\"page\":\"http://x\",\"name\":\"a\",\"query\":\"\"}")
                .status())
        .isEqualTo(400);
    assertThat(ilse.send("DELETE", "/api/saved-views?page=/people&name=Guests", "").json())
        .isEmpty();
  }

  @Test
  void somebodyInvitedIsAskedAboutAsIfTheyWereActive() {
    Caller ilse = as("ilse.varga");
    String invited =
        ilse.get("/api/people?state=invited&limit=1").json().at("/rows/0/key").stringValue();
    String question = "/api/ask/access?principal=" + invited + "&secondFactor=true";
    assertThat(ilse.get(question).json().path("refusal").asString("")).isEqualTo("inactive");
    JsonNode active = ilse.get(question + "&asActive=true").json();
    assertThat(active.path("refusal").asString("")).isEmpty();
    assertThat(active.get("regions")).isNotEmpty();
    assertThat(ilse.get(question).json().path("refusal").asString(""))
        .as("nothing has changed")
        .isEqualTo("inactive");
  }

  @Test
  void aPatternTellsWhatItGivesAndToWhom() {
    Caller ilse = as("ilse.varga");
    int given = 0;
    int held = 0;
    for (JsonNode pattern : ilse.get("/api/things/patterns").json().get("things")) {
      String key = pattern.get("key").stringValue();
      JsonNode page = ilse.get("/api/rights/patterns/" + key).json();
      assertThat(page.at("/pattern/key").stringValue()).isEqualTo(key);
      assertThat(page.get("people")).hasSize(Math.min(200, page.get("size").intValue()));
      given += page.get("gives").size();
      held += page.get("people").size();
      page.get("gives")
          .forEach(it -> assertThat(it.get("subject").stringValue()).isEqualTo("pattern:" + key));
    }
    assertThat(given).as("assignments to patterns in the demo").isPositive();
    assertThat(held).as("people with a pattern in the demo").isPositive();
    assertThat(ilse.get("/api/rights/patterns/none").status()).isEqualTo(404);
  }
}
