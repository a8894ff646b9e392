package mandala.server.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.server.Caller;
import mandala.server.MandalaApplication;
import mandala.server.TestDatabase;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.core.env.Environment;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.ContextConfiguration;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** An empty Mandala: nobody but who has the link can begin, and only once. */
@SpringBootTest(
    classes = MandalaApplication.class,
    webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT,
    properties = "mandala.demo=false")
@ContextConfiguration(initializers = TestDatabase.class)
@DirtiesContext
class WelcomeTest {

  @Autowired private OwnerLink link;
  @Autowired private Environment environment;

  private static String owner(String token, String secret, String code, String key) {
    Map<String, String> owner = new HashMap<>();
    owner.put("token", token);
    owner.put("accountKey", "harbour");
    owner.put("accountName", "Harbour Trust");
    owner.put("key", key);
    owner.put("name", "Ola Nordmann");
    owner.put("password", "a long password");
    owner.put("secret", secret);
    owner.put("code", code);
    return JsonMapper.builder().build().writeValueAsString(owner);
  }

  @Test
  void theLinkCreatesOneOwnerWhoOwnsTheAccount() {
    String token = link.renew();
    Caller caller = new Caller(environment);
    assertThat(caller.get("/api/demo/people").status()).isEqualTo(404);
    assertThat(caller.get("/api/welcome?token=" + token.substring(1)).status()).isEqualTo(404);
    JsonNode enrolment = caller.get("/api/welcome?token=" + token).json();
    String secret = enrolment.get("secret").stringValue();
    assertThat(enrolment.get("address").stringValue()).contains("secret=" + secret);
    assertThat(enrolment.get("qr").get("size").intValue()).isGreaterThan(20);

    Instant now = Instant.now();
    String code = Totp.code(secret, now);
    Caller.Answer wrong =
        caller.send("POST", "/api/welcome", owner(token, secret, "000000", "ola"));
    assertThat(wrong.json().get("title").stringValue()).isEqualTo("The code is not right");
    for (String malformed : List.of("x", "ABC=", "not base 32!", "A".repeat(8), "\u00df")) {
      Caller.Answer answer =
          caller.send("POST", "/api/welcome", owner(token, malformed, "000000", "ola"));
      assertThat(answer.status()).as(malformed).isEqualTo(400);
      assertThat(answer.json().get("title").stringValue()).contains("secret can't be read");
    }
    Caller.Answer bad = caller.send("POST", "/api/welcome", owner(token, secret, code, "Ola N"));
    assertThat(bad.status()).isEqualTo(422);
    assertThat(bad.json().get("faults").get(0).get("path").stringValue())
        .isEqualTo("$.principals[0].key");

    assertThat(caller.send("POST", "/api/welcome", owner(token, secret, code, "ola")).status())
        .isEqualTo(204);
    assertThat(caller.send("POST", "/api/welcome", owner(token, secret, code, "eve")).status())
        .isEqualTo(404);

    JsonNode who =
        caller.signIn("ola", "a long password", Totp.code(secret, now)).json().get("who");
    assertThat(who.get("secondFactor").booleanValue()).isTrue();
    JsonNode answer =
        caller.get("/api/ask/access?principal=ola&in=harbour&secondFactor=true").json();
    assertThat(answer.get("figure").get("rights").longValue()).isEqualTo(14);
  }
}
