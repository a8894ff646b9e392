package mandala.server.draft;

import static org.assertj.core.api.Assertions.assertThat;

import mandala.core.model.Assignment;
import mandala.core.model.Subject;
import mandala.core.model.key.GroupKey;
import mandala.document.ThingDocument;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What a house asks for besides the model's own rules, and rights that merely change route. */
@ApiTest
@DirtiesContext
class PolicyTest {

  private static final String POLICY = "/api/settings/approval/larkmoor";

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  @AfterEach
  void asAtFirst() {
    database.update("delete from approval_policy");
    database.update("update draft set state = 'discarded' where state = 'open'");
  }

  private static JsonNode edit(Caller caller, String edit) {
    Caller.Answer answer =
        caller.send("POST", "/api/drafts/open/edits", "{\"edits\":[" + edit + "]}");
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return caller.get("/api/drafts/open").json();
  }

  @Test
  void whatConcernsMorePeopleThanThePolicyAllowsWaitsForASecondPerson() {
    Caller ilse = as("ilse.varga");
    String join =
        "{\"kind\":\"groups\",\"key\":\"q-registrars\","
            + "\"add\":{\"members\":[\"person:tess.aldergate\",\"person:corin.bladen\"]}}";
    JsonNode free = edit(ilse, join);
    assertThat(free.get("reasons")).isEmpty();
    Caller marten = as("marten.holloway");
    assertThat(marten.send("PUT", POLICY, "{\"people\":1}").status()).isEqualTo(200);
    JsonNode bound = ilse.get("/api/drafts/open").json();
    assertThat(bound.at("/reasons/0").stringValue()).contains("what more than 1 people may do");
    Caller.Answer refused =
        ilse.send(
            "POST",
            "/api/drafts/open/apply",
            "{\"content\":" + bound.get("content") + ",\"proof\":\"" + code("ilse.varga") + "\"}");
    assertThat(refused.status()).isEqualTo(409);
    assertThat(refused.body()).contains("A second person must approve it first");
    assertThat(marten.send("PUT", POLICY, "{\"people\":2}").status()).isEqualTo(200);
    assertThat(ilse.get("/api/drafts/open").json().get("reasons")).isEmpty();
  }

  private String code(String who) {
    for (JsonNode person : new Caller(environment).get("/api/demo/people").json()) {
      if (person.get("key").stringValue().equals(who)) {
        return person.get("code").stringValue();
      }
    }
    throw new IllegalStateException(who + " is nobody of the demo");
  }

  @Test
  void onlyAnOwnerSetsThePolicyAndTheTrailTellsIt() {
    Caller ilse = as("ilse.varga");
    assertThat(ilse.send("PUT", POLICY, "{\"people\":5}").status()).isEqualTo(403);
    Caller marten = as("marten.holloway");
    assertThat(marten.send("PUT", POLICY, "{\"people\":-1}").status()).isEqualTo(400);
    assertThat(marten.send("PUT", POLICY, "{\"people\":30}").status()).isEqualTo(200);
    JsonNode rule = ilse.get("/api/settings/approval").json().at("/rules/0");
    assertThat(rule.get("people").intValue()).isEqualTo(30);
    assertThat(rule.get("mine").booleanValue()).isFalse();
    assertThat(marten.send("PUT", "/api/settings/approval/quillhaven", "{}").status())
        .as("set at the top only")
        .isEqualTo(400);
    assertThat(marten.get("/api/trail?text=Policy").body()).contains("more than 30 people");
  }

  @Test
  void rightsThatMerelyChangeRouteAreToldApart() {
    Assignment held =
        model.engine().catalogue().assignments().values().stream()
            .filter(it -> it.subject().equals(new Subject.OfGroup(new GroupKey("q-registrars"))))
            .findFirst()
            .orElseThrow();
    String again = ThingDocument.write(held).replace("\"" + held.key() + "\"", "\"instead\"");
    Caller ilse = as("ilse.varga");
    edit(ilse, "{\"kind\":\"assignments\",\"after\":" + again + "}");
    edit(ilse, "{\"kind\":\"assignments\",\"key\":\"" + held.key() + "\",\"remove\":true}");
    JsonNode impact = ilse.get("/api/drafts/open/impact?wait=10000").json();
    assertThat(impact.get("state").stringValue()).isEqualTo("done");
    assertThat(impact.get("gained").longValue() + impact.get("lost").longValue()).isZero();
    assertThat(impact.get("rerouted").longValue()).isPositive();
    assertThat(impact.get("summary").stringValue()).contains("change their route");
    assertThat(impact.at("/people/0/rerouted").longValue()).isPositive();
  }
}
