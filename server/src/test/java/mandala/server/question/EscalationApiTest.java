package mandala.server.question;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import mandala.server.ApiTest;
import mandala.server.Caller;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** How could they get it, asked over HTTP. */
@ApiTest
@DirtiesContext
class EscalationApiTest {

  private static final String EVERYONE = "/api/ask/escalation/everyone";

  private static String order(String resource) {
    return "{\"permission\":\"loan.approve\",\"resource\":\"" + resource + "\"}";
  }

  @Autowired private Environment environment;
  @Autowired private JdbcTemplate database;

  private Caller as(String who) {
    database.update("update credential set totp_last_step = -1");
    return Caller.as(who, environment);
  }

  private static String asked(String who, String what, String where) {
    return "/api/ask/escalation?principal=" + who + "&permission=" + what + "&resource=" + where;
  }

  @Test
  void anOwnerComesToItByOneChangeThatSomebodyElseMustApprove() {
    JsonNode answer =
        as("ilse.varga").get(asked("marten.holloway", "loan.approve", "o-loan-103")).json();
    assertThat(answer.get("held").booleanValue()).isFalse();
    assertThat(answer.get("whole").booleanValue()).isTrue();
    assertThat(answer.get("paths")).isNotEmpty();
    for (JsonNode path : answer.get("paths")) {
      assertThat(path.get("approvals").intValue()).isEqualTo(1);
      JsonNode first = path.at("/steps/0");
      assertThat(first.get("uses")).isNotEmpty();
      assertThat(first.get("approval").toString()).contains("widens");
      assertThat(first.get("approvers").toString())
          .contains("Ilse Varga")
          .doesNotContain("Marten Holloway");
    }
  }

  @Test
  void whoeverHoldsNoRightOverTheModelComesToNothing() {
    JsonNode answer =
        as("ilse.varga").get(asked("noor.haddad", "loan.approve", "o-loan-103")).json();
    assertThat(answer.get("paths")).isEmpty();
    assertThat(answer.get("held").booleanValue()).isFalse();
  }

  @Test
  void everybodyWhoCouldIsToldAndNobodyWhoHoldsIt() {
    Caller ilse = as("ilse.varga");
    JsonNode job = ilse.job(EVERYONE, order("o-loan-103"));
    assertThat(job.get("state").stringValue()).isEqualTo("done");
    String path = "/api/jobs/" + job.get("id").stringValue() + "/answer";
    JsonNode answer = ilse.get(path).json();
    List<String> people = new ArrayList<>();
    answer.get("people").forEach(it -> people.add(it.get("key").stringValue()));
    assertThat(people).contains("ilse.varga", "marten.holloway").doesNotContain("arlo.yates");
    assertThat(answer.get("whole").booleanValue()).isTrue();
    assertThat(answer.has("able")).as("who is able elsewhere is not counted for her").isFalse();
    assertThat(job.get("total").longValue()).as("shares, not how many are able").isEqualTo(100);
    String file = ilse.get(path + "/export?format=csv").body();
    assertThat(file).contains("who could approve").contains("marten.holloway");
    assertThat(ilse.get("/api/trail?text=Who+could+get").body())
        .contains("Who could get Approve loans");
  }

  @Test
  void whoMayNotAskIsRefusedAndWhatIsUnknownIsNamed() {
    Caller noor = as("noor.haddad");
    assertThat(noor.get(asked("ilse.varga", "loan.approve", "o-loan-103")).status()).isEqualTo(404);
    Caller.Answer refused = noor.send("POST", EVERYONE, order("o-loan-103"));
    assertThat(refused.status()).isEqualTo(404);
    assertThat(refused.body().replace("o-loan-103", "X"))
        .as("as of a place that there is not")
        .isEqualTo(noor.send("POST", EVERYONE, order("no-place")).body().replace("no-place", "X"));
    Caller ilse = as("ilse.varga");
    assertThat(ilse.get(asked("noor.haddad", "fly", "o-loan-103")).body()).contains("fly");
    assertThat(ilse.get(asked("noor.haddad", "loan.approve", "nowhere")).body())
        .contains("nowhere");
    assertThat(
            ilse.send("POST", EVERYONE, order("o-loan-103").replace("}", ",\"changes\":9}"))
                .status())
        .isEqualTo(400);
    assertThat(ilse.send("POST", EVERYONE, "{}").status()).isEqualTo(400);
    Caller.Answer far = ilse.get(asked("noor.haddad", "loan.approve", "o-loan-103") + "&changes=9");
    assertThat(far.status()).isEqualTo(400);
    assertThat(far.body()).contains("1 to 3");
  }
}
