package mandala.server.question;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.key.PrincipalKey;
import mandala.document.ThingDocument;
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

/** Questions about people whom a past revision or a draft lacks, or whom only they know. */
@ApiTest
@DirtiesContext
class AbsenceTest {

  private static final String PERSON =
      """
      {"key":"nia.brook","name":"Nia Brook","kind":"person","account":"quillhaven","mfa":true}\
      """;
  private static final String ASSIGNMENT =
      """
      {"key":"nia-reads","subject":"person:nia.brook","gives":"role:mandala.owner",
       "scope":[{"tree":"account:quillhaven"}]}\
      """;

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;
  @Autowired private LiveModel model;

  private Caller ilse;

  @BeforeEach
  void signIn() {
    database.update("update credential set totp_last_step = -1");
    database.update("delete from sign_in_throttle");
    ilse = Caller.as("ilse.varga", environment);
    ilse.send("PATCH", "/api/drafts/open", "{\"state\":\"discarded\"}");
  }

  private static Thing thing(Kind kind, String json) {
    Thing thing = ThingDocument.read(kind, json).thing();
    assertThat(thing).isNotNull();
    return thing;
  }

  private static JsonNode ok(Caller.Answer answer) {
    assertThat(answer.status()).as(answer.body()).isEqualTo(200);
    return answer.json();
  }

  private static final String WHOSE = "principal=nia.brook&secondFactor=true";

  private void assertAbsent(String when) {
    JsonNode access = ok(ilse.get("/api/ask/access?" + WHOSE + when));
    assertThat(access.get("refusal").stringValue()).isEqualTo("absent");
    assertThat(access.get("figure").get("rights").longValue()).isZero();
    assertThat(access.get("regions")).isEmpty();
    JsonNode routes =
        ok(
            ilse.get(
                "/api/ask/routes?"
                    + WHOSE
                    + "&permission=mandala.directory.read&resource=account:quillhaven"
                    + when));
    assertThat(routes.get("verdict").stringValue()).isEqualTo("absent");
    assertThat(ok(ilse.get("/api/ask/inside?" + WHOSE + "&resource=account:quillhaven" + when)))
        .isEmpty();
    assertThat(ilse.get("/api/ask/access/export?format=csv&" + WHOSE + when).status())
        .isEqualTo(200);
  }

  private long rights(String when) {
    JsonNode access = ok(ilse.get("/api/ask/access?" + WHOSE + when));
    assertThat(access.has("refusal")).isFalse();
    return access.get("figure").get("rights").longValue();
  }

  @Test
  void whoCameAndWentIsToldOfAsTheyWereAtEachRevision() {
    long before = model.state().revision();
    List<Change> comes =
        List.of(
            new Change.Added(thing(Kind.PRINCIPALS, PERSON)),
            new Change.Added(thing(Kind.ASSIGNMENTS, ASSIGNMENT)));
    long there = model.change(comes).revision();
    assertThat(rights("")).isPositive();
    assertAbsent("&revision=" + before);
    JsonNode difference =
        ok(
            ilse.get(
                "/api/ask/difference?one=nia.brook&other=nia.brook&revision="
                    + before
                    + "&otherRevision="
                    + there));
    assertThat(difference.get("one").get("refusal").stringValue()).isEqualTo("absent");
    assertThat(difference.get("gained").longValue()).isPositive();

    String removing =
        "{\"edits\":[{\"kind\":\"assignments\",\"key\":\"nia-reads\",\"remove\":true},"
            + "{\"kind\":\"principals\",\"key\":\"nia.brook\",\"remove\":true}]}";
    ok(ilse.send("POST", "/api/drafts/open/edits", removing));
    assertAbsent("&draft=open");
    assertThat(
            ilse.get(
                    "/api/ask/remedies?"
                        + WHOSE
                        + "&permission=mandala.directory.read&resource=account:quillhaven&draft=open")
                .status())
        .isEqualTo(404);

    model.change(comes.reversed().stream().map(Change::inverse).toList());
    assertThat(model.engine().catalogue().principals().containsKey(new PrincipalKey("nia.brook")))
        .isFalse();
    assertThat(ilse.get("/api/ask/access?" + WHOSE).status()).isEqualTo(404);
    assertThat(rights("&revision=" + there)).isPositive();
  }

  @Test
  void whomADraftAddsCanDoWhatTheDraftGives() {
    String adding =
        "{\"edits\":[{\"kind\":\"principals\",\"after\":"
            + PERSON
            + "},{\"kind\":\"assignments\",\"after\":"
            + ASSIGNMENT
            + "}]}";
    ok(ilse.send("POST", "/api/drafts/open/edits", adding));
    assertThat(ilse.get("/api/ask/access?" + WHOSE).status()).isEqualTo(404);
    assertThat(rights("&draft=open")).isPositive();
    String routes =
        "/api/ask/routes?"
            + WHOSE
            + "&permission=mandala.directory.read&resource=account:quillhaven";
    assertThat(ok(ilse.get(routes + "&draft=open")).get("verdict").stringValue())
        .isEqualTo("allowed");
    Principal noor = model.engine().catalogue().principals().get(new PrincipalKey("noor.haddad"));
    assertThat(noor).isNotNull();
    Caller plain = Caller.as("noor.haddad", environment);
    plain.send("POST", "/api/drafts/open/edits", adding);
    assertThat(plain.get("/api/ask/access?" + WHOSE + "&draft=open").status())
        .as("a draft makes nobody askable")
        .isEqualTo(404);
  }
}
