package mandala.server.question;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.model.LiveModel;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** Who can, what would give it, what must go, how they differ, what she would see, what fails. */
@ApiTest
@DirtiesContext
class QuestionsTest {

  @Autowired private Environment environment;
  @Autowired private LiveModel model;
  @Autowired private JdbcTemplate database;

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static Set<String> keys(JsonNode list) {
    Set<String> keys = new HashSet<>();
    list.forEach(it -> keys.add(it.get("key").stringValue()));
    return keys;
  }

  @Test
  void whoCanIsWhomEachVerdictAllows() {
    Caller ilse = as("ilse.varga");
    JsonNode answer =
        ilse.get("/api/ask/who?permission=object.edit&below=account:quillhaven").json();
    assertThat(answer.get("where").stringValue()).contains("and all below it");
    Engine engine = model.engine();
    ResourceKey place =
        engine.catalogue().resources().values().stream()
            .filter(it -> it.type().value().equals("object"))
            .filter(it -> it.account().value().equals("quillhaven"))
            .findFirst()
            .orElseThrow()
            .key();
    JsonNode one = ilse.get("/api/ask/who?permission=object.view&on=" + place).json();
    Set<String> told = keys(one.get("allowed"));
    Set<String> expected = new HashSet<>();
    for (var it : engine.catalogue().principals().values()) {
      Question question =
          new Question(
              it.key(),
              new PermissionKey("object.view"),
              place,
              java.time.Instant.now(),
              true,
              null);
      boolean seen = !it.account().value().equals("dunlow"); // of whom Ilse may not read
      if (seen && engine.decide(question).allowed()) {
        expected.add(it.key().value());
      }
    }
    assertThat(told).isEqualTo(expected).isNotEmpty();
    assertThat(one.get("elsewhere").booleanValue()).isTrue();
  }

  @Test
  void whoCanIsAskedByClassAndRiskAndRefusedWhereOneMayNotAsk() {
    Caller ilse = as("ilse.varga");
    JsonNode risky = ilse.get("/api/ask/who?risk=critical&below=account:quillhaven").json();
    assertThat(risky.get("what").stringValue()).isEqualTo("do anything of risk critical");
    assertThat(risky.get("allowed")).isNotEmpty();
    assertThat(ilse.get("/api/ask/who?below=account:quillhaven").status()).isEqualTo(400);
    assertThat(ilse.get("/api/ask/who?permission=fly&on=l-van-1").status()).isEqualTo(404);
    assertThat(ilse.get("/api/ask/who?permission=object.edit&on=nowhere").status()).isEqualTo(404);
    Caller noor = as("noor.haddad");
    Caller.Answer refused = noor.get("/api/ask/who?permission=vehicle.view&on=l-van-1");
    assertThat(refused.status()).isEqualTo(404);
    assertThat(refused.body().replace("l-van-1", "X"))
        .as("as of a place that there is not")
        .isEqualTo(
            noor.get("/api/ask/who?permission=vehicle.view&on=nowhere")
                .body()
                .replace("nowhere", "X"));
  }

  private static String why(String who, String what, String where) {
    return "principal=" + who + "&permission=" + what + "&resource=" + where + "&secondFactor=true";
  }

  @Test
  void aWayToGiveGoesIntoTheDraftAndThenItIsAllowed() {
    Caller ilse = as("ilse.varga");
    String asked = why("tess.aldergate", "vehicle.view", "l-van-1");
    JsonNode ways = ilse.get("/api/ask/remedies?" + asked).json();
    assertThat(ways.get("verdict").stringValue()).isEqualTo("none");
    assertThat(ways.get("give")).isNotEmpty();
    assertThat(ways.get("end")).isEmpty();
    JsonNode first = ways.at("/give/0");
    assertThat(first.get("others").longValue()).isZero();
    Caller.Answer edited =
        ilse.send("POST", "/api/drafts/open/edits", "{\"edits\":" + first.get("edits") + "}");
    assertThat(edited.status()).as(edited.body()).isEqualTo(200);
    assertThat(ilse.get("/api/ask/routes?draft=open&" + asked).json().get("verdict").stringValue())
        .isEqualTo("allowed");
    JsonNode end = ilse.get("/api/ask/remedies?draft=open&" + asked).json().get("end");
    assertThat(end).hasSizeGreaterThan(1);
    assertThat(end.toString()).contains("is denied");
    database.update("update draft set state = 'discarded' where state = 'open'");
  }

  @Test
  void howTwoDifferIsWhatEachHasMore() {
    Caller ilse = as("ilse.varga");
    String path = "/api/ask/difference?one=tess.aldergate&other=noor.haddad";
    JsonNode answer = ilse.get(path).json();
    JsonNode back = ilse.get("/api/ask/difference?one=noor.haddad&other=tess.aldergate").json();
    assertThat(answer.get("gained")).isEqualTo(back.get("lost"));
    assertThat(answer.get("lost")).isEqualTo(back.get("gained"));
    assertThat(
            answer.at("/other/figure/rights").longValue()
                - answer.at("/one/figure/rights").longValue())
        .isEqualTo(answer.get("gained").longValue() - answer.get("lost").longValue());
    assertThat(ilse.get("/api/ask/difference?one=noor.haddad&other=noor.haddad").status())
        .isEqualTo(400);
    assertThat(ilse.get(path + "&otherAt=2020-01-01T00:00:00Z").status()).isEqualTo(200);
    assertThat(as("noor.haddad").get(path).status()).isEqualTo(404);
    String csv = ilse.get(path.replace("?", "/export?") + "&format=csv").body();
    assertThat(csv.lines()).hasSize(answer.get("lines").size() + 1);
    assertThat(ilse.get(path.replace("?", "/export?") + "&format=xlsx").type())
        .contains("spreadsheetml");
    assertThat(ilse.get(path.replace("?", "/export?") + "&format=pdf").status()).isEqualTo(400);
  }

  @Test
  void anAddressThatCannotBeReadIsToldWhereAndHow() {
    Caller ilse = as("ilse.varga");
    assertThat(ilse.get("/api/ask/access").body())
        .contains("Required parameter 'principal' is not present", "API description");
    assertThat(ilse.get("/api/ask/routes?principal=noor.haddad&permission=loan.approve").body())
        .contains("Required parameter 'resource' is not present");
    for (String wrong :
        new String[] {
          "access?principal=noor.haddad&at=yesterday",
          "access?principal=noor.haddad&secondFactor=perhaps",
          "access?principal=noor.haddad&revision=last",
          "escalation?principal=noor.haddad&permission=loan.approve&resource=q-loan-101&changes=many"
        }) {
      Caller.Answer answer = ilse.get("/api/ask/" + wrong);
      String name = wrong.substring(wrong.lastIndexOf('&') + 1, wrong.lastIndexOf('='));
      String value = wrong.substring(wrong.lastIndexOf('=') + 1);
      assertThat(answer.status()).as(wrong).isEqualTo(400);
      assertThat(answer.body())
          .as(wrong)
          .contains("'" + name + "' cannot be read", "Found '" + value + "'. Give ");
    }
    assertThat(ilse.get("/api/ask/access?principal=noor.haddad&at=&revision=").status())
        .as("what is left empty is absent")
        .isEqualTo(200);
  }

  @Test
  void anImpersonatedViewShowsWhatSheSeesAndChangesNothing() {
    Caller marten = as("marten.holloway");
    Caller.Answer headerAlone = marten.pretendingToSeeAs("noor.haddad").get("/api/accounts");
    assertThat(headerAlone.status()).as("a view is begun, and so noted").isEqualTo(403);
    assertThat(headerAlone.body()).contains("was not begun in your session");
    assertThat(marten.send("POST", "/api/views", "{\"principal\":\"noor.haddad\"}").status())
        .isEqualTo(200);
    assertThat(marten.get("/api/trail?text=Began%20to%20see").body().replace(" ", ""))
        .contains("\"actingFor\":\"noor.haddad\"");
    Caller noor = as("noor.haddad");
    Caller view = marten.seeingAs("noor.haddad");
    for (String path :
        new String[] {
          "/api/accounts", "/api/people?limit=20", "/api/things/groups", "/api/things/assignments"
        }) {
      assertThat(view.get(path).body()).as(path).isEqualTo(noor.get(path).body());
    }
    JsonNode you = view.get("/api/rights/people/noor.haddad").json();
    assertThat(you.get("assignments")).as("what she holds herself").isNotEmpty();
    JsonNode session = view.get("/api/session").json();
    assertThat(session.at("/who/key").stringValue()).isEqualTo("noor.haddad");
    assertThat(session.at("/seenBy/key").stringValue()).isEqualTo("marten.holloway");
    Caller.Answer edit =
        view.send(
            "POST",
            "/api/drafts/open/edits",
            "{\"edits\":[{\"kind\":\"groups\",\"after\":{\"account\":\"quillhaven\"}}]}");
    assertThat(edit.status()).isEqualTo(403);
    assertThat(edit.body()).contains("You can't change anything in an impersonated view");
    assertThat(view.get("/api/ask/access?principal=noor.haddad").status()).isEqualTo(200);
    assertThat(marten.get("/api/trail?act=asked&thing=noor.haddad").body())
        .as("what is asked in a view stands under the one who is signed in")
        .contains("What they can do", "marten.holloway");
    assertThat(marten.send("DELETE", "/api/views/noor.haddad", "").status()).isEqualTo(204);
    assertThat(marten.send("DELETE", "/api/views/noor.haddad", "").status()).isEqualTo(204);
    assertThat(view.get("/api/accounts").status()).as("a view that was ended").isEqualTo(403);
    assertThat(noor.pretendingToSeeAs("marten.holloway").get("/api/accounts").status())
        .isEqualTo(403);
    assertThat(noor.send("POST", "/api/views", "{\"principal\":\"marten.holloway\"}").status())
        .isEqualTo(403);
  }

  @Test
  void checksTellWhatFailsWithWhomToAskAbout() {
    Caller ilse = as("ilse.varga");
    JsonNode findings = ilse.get("/api/checks").json().get("findings");
    assertThat(findings).isNotEmpty();
    Set<String> kinds = new HashSet<>();
    findings.forEach(it -> kinds.add(it.get("kind").stringValue()));
    assertThat(kinds).contains("exclusion");
    assertThat(findings.toString()).contains("\"principal\"");
    for (JsonNode finding : findings) {
      for (JsonNode it : finding.get("cases")) {
        assertThat(it.has("account")).as(it.toString()).isEqualTo(it.has("principal"));
      }
    }
    JsonNode proposals = ilse.get("/api/checks/proposals?account=quillhaven").json();
    for (JsonNode it : proposals) {
      Caller.Answer edited =
          ilse.send(
              "POST",
              "/api/drafts/open/edits",
              "{\"edits\":[{\"kind\":\"expectations\",\"after\":" + it.get("thing") + "}]}");
      assertThat(edited.status()).as(edited.body()).isEqualTo(200);
    }
    JsonNode after = ilse.get("/api/checks?draft=open").json().get("findings");
    assertThat(after).as("what is proposed holds").hasSameSizeAs(findings);
    assertThat(as("noor.haddad").get("/api/checks").status()).isEqualTo(403);
    database.update("update draft set state = 'discarded' where state = 'open'");
  }
}
