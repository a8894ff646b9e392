package mandala.server.tidy;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.Assignment;
import mandala.core.model.Group;
import mandala.core.model.key.AssignmentKey;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** What can go is proposed to whoever may change it, and no choice of it changes any access. */
@ApiTest
@DirtiesContext
class TidyApiTest {

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;

  @BeforeEach
  void freshCodes() {
    database.update("update credential set totp_last_step = -1");
  }

  private static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  /** Looks for proposals; its address comes first, then what was found. */
  private record Found(String path, JsonNode answer) {
    static Found by(Caller who, String order) {
      JsonNode job = who.job("/api/tidy", order);
      assertThat(job.get("state").stringValue()).as(job.toString()).isEqualTo("done");
      String path = "/api/tidy/" + job.get("id").stringValue();
      return new Found(path, ok(who.get(path)));
    }

    List<JsonNode> steps() {
      return answer.get("steps").valueStream().toList();
    }

    int indexOf(String reason, String said) {
      for (int i = 0; i < steps().size(); i++) {
        JsonNode it = steps().get(i);
        if (it.get("reason").stringValue().equals(reason) && it.toString().contains(said)) {
          return i;
        }
      }
      throw new AssertionError("No " + reason + " with " + said + " in " + answer);
    }
  }

  /** Takes some proposals and returns what the draft does to everybody, as its author sees it. */
  private static JsonNode impactOf(Caller who, Found found, List<Integer> steps) {
    JsonNode taken = ok(who.send("POST", found.path() + "/draft", "{\"steps\":" + steps + "}"));
    String draft = taken.get("draft").stringValue();
    JsonNode view = ok(who.get("/api/drafts/" + draft));
    assertThat(view.get("name").stringValue()).isEqualTo("Tidy rights");
    assertThat(view.get("refusals").toString()).as("its author may apply it").isEqualTo("[]");
    JsonNode impact = ok(who.get("/api/drafts/" + draft + "/impact?wait=10000"));
    assertThat(impact.get("state").stringValue()).isEqualTo("done");
    who.send("PATCH", "/api/drafts/" + draft, "{\"state\":\"discarded\"}");
    return impact;
  }

  private static void assertNobodyIsConcerned(JsonNode impact) {
    assertThat(impact.get("people")).as(impact.toString()).isEmpty();
  }

  @Test
  void allProposalsTogetherChangeNobodysAccess() {
    Caller ilse = Caller.as("ilse.varga", environment);
    Found found = Found.by(ilse, "{\"roles\":true}");
    assertThat(found.answer().get("changes").asBoolean()).isTrue();
    assertThat(found.steps())
        .hasSizeGreaterThan(1)
        .allSatisfy(it -> {
          assertThat(it.has("changes")).isFalse();
          assertThat(it.get("said")).isNotEmpty();
          assertThat(it.get("why").stringValue()).isNotBlank();
          assertThat(it.get("fewer").asInt()).isPositive();
        });
    assertThat(found.steps().get(found.indexOf("twin", "Records cataloguer")).toString())
        .contains("role “Cataloguer” gives exactly the same");
    List<Integer> all = new ArrayList<>();
    for (int i = 0; i < found.steps().size(); i++) {
      all.add(i);
    }
    assertNobodyIsConcerned(impactOf(ilse, found, all));
  }

  @Test
  void oneIsTakenWithWhatItNeeds() {
    Caller ilse = Caller.as("ilse.varga", environment);
    Found found = Found.by(ilse, "{}");
    int twins = found.indexOf("twin", "Records cataloguer");
    assertNobodyIsConcerned(impactOf(ilse, found, List.of(twins)));
    List<JsonNode> steps = found.steps();
    for (int i = 0; i < steps.size(); i++) {
      int at = i;
      assertThat(steps.get(i).get("needs").valueStream())
          .allSatisfy(it -> assertThat(it.asInt()).isBetween(0, at - 1));
    }
    assertThat(found.answer().toString()).doesNotContain("\"reason\":\"group\"");
  }

  @Test
  void whoeverMayOnlyReadGetsProposalsThatTheyCannotTake() {
    Caller vera = Caller.as("vera.lindqvist", environment);
    Found found = Found.by(vera, "{}");
    assertThat(found.answer().get("changes").asBoolean()).isFalse();
    assertThat(found.steps()).isNotEmpty();
    assertThat(vera.send("POST", found.path() + "/draft", "{\"steps\":[0]}").status())
        .isEqualTo(403);
    assertThat(Caller.as("ilse.varga", environment).get(found.path()).status())
        .as("another's")
        .isEqualTo(404);
  }

  @Test
  void aDelegatedAdministratorGetsWhatTheyMayChange() {
    Caller delegated = Caller.as("dario.penn", environment);
    List<Change> copies = new ArrayList<>();
    for (String key :
        List.of("f-collections.cataloguer", "f-guards-strongroom", "o-collections.cataloguer")) {
      Assignment it = model.engine().catalogue().assignments().get(new AssignmentKey(key));
      assertThat(it).as(key).isNotNull();
      copies.add(new Change.Added(Altered.with(it, "key", key + "-copy")));
    }
    model.change(copies);
    try {
      Found found = Found.by(delegated, "{\"roles\":true}");
      assertThat(found.answer().get("part").asBoolean()).isTrue();
      assertThat(found.steps())
          .as("not the strongroom's, which they may not assign, nor another account's")
          .hasSize(1);
      assertThat(found.steps().getFirst().get("said").toString())
          .contains("Collections no longer gets Cataloguer");
      assertThat(found.answer().toString())
          .as("shared roles, other accounts, and denies, which tell of everybody")
          .doesNotContain("Strongroom", "no-effect", "Osier", "Rolf Dane");
      assertThat(impactOf(delegated, found, List.of(0)).get("summary").stringValue())
          .startsWith("No one gains or loses a right; ");
    } finally {
      model.change(copies.reversed().stream().map(Change::inverse).toList());
    }
  }

  @Test
  void wrongChoicesAreRefused() {
    Caller ilse = Caller.as("ilse.varga", environment);
    Found found = Found.by(ilse, "{}");
    String draft = found.path() + "/draft";
    assertThat(ilse.send("POST", draft, "{\"steps\":[]}").status()).isEqualTo(400);
    assertThat(ilse.send("POST", draft, "{\"steps\":[-1]}").status()).isEqualTo(400);
    assertThat(ilse.send("POST", draft, "{\"steps\":[99999]}").status()).isEqualTo(404);
    assertThat(ilse.send("POST", "/api/tidy/none/draft", "{\"steps\":[0]}").status())
        .isEqualTo(404);
    Group group = model.engine().catalogue().groups().values().iterator().next();
    Group other = Altered.with(group, "name", "Another name");
    model.change(List.of(new Change.Altered(group, other)));
    try {
      Caller.Answer late = ilse.send("POST", draft, "{\"steps\":[0]}");
      assertThat(late.status()).as(late.body()).isEqualTo(409);
      assertThat(late.body()).contains("Look for proposals again");
    } finally {
      model.change(List.of(new Change.Altered(other, group)));
    }
    assertThat(Caller.as("tess.aldergate", environment).send("POST", "/api/tidy", "{}").status())
        .as("who may read nobody")
        .isEqualTo(403);
  }
}
