package mandala.server.catalog;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** A person's page, and what the server says its viewer may not do. */
@ApiTest
@DirtiesContext
class PersonPageTest {

  private static final List<String> KINDS =
      List.of("groups", "principals", "roles", "resources", "units", "collections", "assignments");

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private LiveModel model;

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static JsonNode page(Caller caller, String who) {
    Caller.Answer answer = caller.get("/api/rights/people/" + who);
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  @Test
  void factsLeadToWhatMayBeOpened() {
    JsonNode odile = page(as("ilse.varga"), "odile.farrow");
    assertThat(odile.get("state").stringValue()).isEqualTo("active");
    assertThat(odile.at("/account/key").stringValue()).isEqualTo("quillhaven");
    assertThat(odile.at("/unit/name").stringValue()).isEqualTo("Registry");
    assertThat(odile.at("/manager/key").stringValue()).isEqualTo("tomas.brandt");
    assertThat(odile.at("/manager/name").stringValue()).isEqualTo("Tomas Brandt");
    JsonNode tomas = page(as("ilse.varga"), "tomas.brandt");
    assertThat(tomas.get("reports"))
        .extracting(it -> it.get("key").stringValue())
        .contains("odile.farrow", "noor.haddad");
    for (JsonNode group : odile.get("groups")) {
      assertThat(group.get("direct").booleanValue()).as("all by rule: %s", group).isFalse();
    }
    JsonNode anselm = page(as("ilse.varga"), "anselm.reeve");
    assertThat(anselm.at("/groups/0/name").stringValue()).isEqualTo("Security office");
    assertThat(anselm.at("/groups/0/direct").booleanValue()).isTrue();
  }

  @ParameterizedTest
  @CsvSource({
    "hanne.sorrel, left",
    "wren.okafor, suspended",
    "kai.orrin, invited",
    "odile.farrow, active"
  })
  void aStateSaysWhyThereIsNoAccess(String who, String state) {
    assertThat(page(as("ilse.varga"), who).get("state").stringValue()).isEqualTo(state);
  }

  @Test
  void whoMayChangeNothingIsToldWhyInOneSentence() {
    JsonNode seen = page(as("vera.lindqvist"), "odile.farrow");
    JsonNode cannot = seen.get("cannot");
    assertThat(cannot.get("edit").stringValue()).isEqualTo("You need “Manage people” on Registry.");
    assertThat(cannot.get("assign").stringValue()).contains("“Assign access”");
    assertThat(cannot.get("viewAs").stringValue()).contains("“See as another”");
    assertThat(cannot.path("ask").isString()).as("auditors may ask").isFalse();
    assertThat(seen.path("signIn").isObject()).isFalse();
    for (JsonNode group : seen.get("groups")) {
      assertThat(group.get("cannot").stringValue()).contains("“Manage groups”");
    }
    for (JsonNode assignment : seen.get("assignments")) {
      assertThat(assignment.get("cannot").stringValue()).contains("“Assign access”");
    }
  }

  @Test
  void whoManagesThemSeesHowTheySignIn() {
    Caller noor = as("noor.haddad");
    JsonNode seen = page(as("ilse.varga"), "noor.haddad");
    for (String act : List.of("edit", "assign", "viewAs", "ask")) {
      assertThat(seen.get("cannot").path(act).isString()).as(act).isFalse();
    }
    assertThat(seen.at("/signIn/password").booleanValue()).isTrue();
    assertThat(seen.at("/signIn/sessions").size()).isPositive();
    JsonNode own = page(noor, "noor.haddad");
    assertThat(own.at("/signIn/sessions").size()).isPositive();
    assertThat(own.at("/cannot/viewAs").stringValue()).isEqualTo("This is you.");
    assertThat(noor.get("/api/rights/people/odile.farrow").status()).isEqualTo(404);
    assertThat(page(as("ilse.varga"), "label-printer").at("/signIn/password").booleanValue())
        .isFalse();
  }

  @Test
  void accountsSayWhatCanBeMadeInThem() {
    Map<String, Set<String>> may = new HashMap<>();
    for (JsonNode account : as("dario.penn").get("/api/accounts").json().get("accounts")) {
      may.put(
          account.get("key").stringValue(),
          account.get("may").valueStream().map(JsonNode::stringValue).collect(Collectors.toSet()));
    }
    assertThat(may.get("fernwick"))
        .containsExactlyInAnyOrder(
            "mandala.people.manage",
            "mandala.groups.manage",
            "mandala.access.assign",
            "mandala.review.run");
    for (JsonNode account : as("vera.lindqvist").get("/api/accounts").json().get("accounts")) {
      assertThat(account.get("may")).isEmpty();
    }
  }

  /** What a thing says of its viewer is what a draft that changes it is refused. */
  @ParameterizedTest
  @ValueSource(strings = {"ilse.varga", "dario.penn", "vera.lindqvist"})
  void whatCannotBeChangedIsWhatADraftIsRefused(String viewer) {
    Caller caller = as(viewer);
    Map<String, Boolean> changeable = new HashMap<>();
    List<String> edits = new ArrayList<>();
    for (String kind : KINDS) {
      for (JsonNode it : caller.get("/api/things/" + kind + "?limit=25").json().get("things")) {
        String key = it.get("key").stringValue();
        if (!it.get("supplied").booleanValue()) {
          changeable.put(kind + " " + key, !it.path("cannot").isString());
          edits.add(
              "{\"kind\":\"%s\",\"key\":\"%s\",\"set\":{\"note\":\"looked at\"}}"
                  .formatted(kind, key));
        }
      }
    }
    Caller.Answer edited =
        caller.send(
            "POST", "/api/drafts/open/edits", "{\"edits\":[" + String.join(",", edits) + "]}");
    assertThat(edited.status()).as(edited.body()).isEqualTo(200);
    Map<String, Boolean> allowed = new HashMap<>();
    for (JsonNode change : caller.get("/api/drafts/open").json().get("changes")) {
      allowed.put(
          change.get("kind").stringValue() + " " + change.get("key").stringValue(),
          change.get("refusals").isEmpty());
    }
    assertThat(changeable).hasSizeGreaterThan(20);
    assertThat(allowed).isEqualTo(changeable);
    if (!viewer.equals("vera.lindqvist")) {
      assertThat(changeable).containsValue(true);
    }
    assertThat(changeable).containsValue(false);
  }

  private JsonNode ending(Caller caller, String who, String assignment) {
    Caller.Answer answer =
        caller.get("/api/rights/people/" + who + "/ending?assignment=" + assignment);
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  @Test
  void anEndingCountsWhatEverybodyLoses() {
    Engine before = model.engine();
    Assignment it = before.catalogue().assignments().get(new AssignmentKey("l-night-houses"));
    Engine after = before.after(List.of(new Change.Removed(Objects.requireNonNull(it))));
    Map<PrincipalKey, Long> lost = new HashMap<>();
    for (PrincipalKey each : before.catalogue().principals().keySet()) {
      long difference = rights(before, each) - rights(after, each);
      if (difference != 0) {
        lost.put(each, difference);
      }
    }
    PrincipalKey guard = lost.keySet().iterator().next();
    JsonNode ending =
        ending(as("ilse.varga"), guard.value(), Objects.requireNonNull(it).key().value());
    assertThat(ending.get("own").longValue()).isEqualTo(lost.remove(guard));
    assertThat(ending.get("people").intValue()).isEqualTo(lost.size()).isGreaterThan(5);
    assertThat(ending.get("rights").longValue())
        .isEqualTo(lost.values().stream().mapToLong(Long::longValue).sum());
    assertThat(ending.get("elsewhere").booleanValue()).isFalse();
    assertThat(ending.at("/group/key").stringValue()).isEqualTo("l-night-guards");
    assertThat(ending.get("leavable").booleanValue()).as("in it by a rule").isFalse();
  }

  private static long rights(Engine engine, PrincipalKey who) {
    return engine.rights(new Session(who, Instant.now(), true, null));
  }

  @Test
  void aListedMemberCouldLeaveTheGroupInstead() {
    JsonNode seen = ending(as("ilse.varga"), "anselm.reeve", "l-reviewers");
    assertThat(seen.get("leavable").booleanValue()).isTrue();
    assertThat(seen.get("own").longValue()).isPositive();
    assertThat(
            ending(as("vera.lindqvist"), "anselm.reeve", "l-reviewers")
                .get("leavable")
                .booleanValue())
        .as("not by an auditor")
        .isFalse();
  }

  @ParameterizedTest
  @CsvSource({
    "anselm.reeve, no-such, There is no assignment 'no-such'",
    "anselm.reeve, '', There is no assignment ''",
    "no.body, l-reviewers, There is nobody called 'no.body'"
  })
  void whatIsNotThereEndsNothing(String who, String assignment, String said) {
    Caller.Answer answer =
        as("ilse.varga").get("/api/rights/people/" + who + "/ending?assignment=" + assignment);
    assertThat(answer.status()).isEqualTo(404);
    assertThat(answer.json().get("detail").stringValue()).startsWith(said);
  }

  @Test
  void whoMayNotReadAnAssignmentLearnsNothingOfIt() {
    Caller dario = as("dario.penn");
    Caller.Answer hidden = dario.get("/api/rights/people/ada.finch/ending?assignment=l-reviewers");
    Caller.Answer absent = dario.get("/api/rights/people/ada.finch/ending?assignment=l-reviewerx");
    assertThat(hidden.status()).isEqualTo(404);
    assertThat(hidden.body()).isEqualTo(absent.body().replace("l-reviewerx", "l-reviewers"));
  }
}
