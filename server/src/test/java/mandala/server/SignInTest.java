package mandala.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** Signing in: password, second factor, throttling, sessions in the database, protection. */
@ApiTest
@DirtiesContext
class SignInTest {

  @Autowired private Environment environment;
  @Autowired private javax.sql.DataSource database;

  private Caller somebody() {
    return new Caller(environment);
  }

  private JsonNode demo(String key) {
    for (JsonNode person : somebody().get("/api/demo/people").json()) {
      if (person.get("key").stringValue().equals(key)) {
        return person;
      }
    }
    throw new AssertionError(key);
  }

  @Test
  void aRightPasswordSignsInByKeyOrAddress() {
    assertThat(somebody().signIn("tomas.brandt", "larkmoor-demo", "").status()).isEqualTo(200);
    JsonNode who =
        somebody().signIn("Tomas.Brandt@larkmoor.example", "larkmoor-demo", "").json().get("who");
    assertThat(who.get("key").stringValue()).isEqualTo("tomas.brandt");
    assertThat(who.get("secondFactor").booleanValue()).isFalse();
  }

  @Test
  void aWrongNameAndAWrongPasswordReadTheSame() {
    Caller.Answer name = somebody().signIn("no.body", "larkmoor-demo", "");
    Caller.Answer password = somebody().signIn("rolf.dane", "wrong", "");
    assertThat(name.status()).isEqualTo(401);
    assertThat(password.body()).isEqualTo(name.body());
  }

  @Test
  void whoIsNotActiveCannotSignIn() {
    assertThat(somebody().signIn("wren.okafor", "larkmoor-demo", "").status()).isEqualTo(401);
    assertThat(somebody().signIn("hanne.sorrel", "larkmoor-demo", "").status()).isEqualTo(401);
  }

  @Test
  void aCodeCountsOnceAndCanBeShownLater() {
    Caller caller = somebody();
    assertThat(caller.signIn("dario.penn", "larkmoor-demo", "").status()).isEqualTo(200);
    String code = demo("dario.penn").get("code").stringValue();
    Caller.Answer shown =
        caller.send("POST", "/api/session/second-factor", "{\"code\": \"" + code + "\"}");
    assertThat(shown.status()).isEqualTo(200);
    assertThat(shown.json().get("who").get("secondFactor").booleanValue()).isTrue();
    Caller.Answer again = somebody().signIn("dario.penn", "larkmoor-demo", code);
    assertThat(again.status()).isEqualTo(401);
    assertThat(again.json().get("detail").stringValue()).contains("was used before");
  }

  @Test
  void failuresAreThrottledByName() {
    List<Integer> statuses = new ArrayList<>();
    for (int i = 0; i < 7; i++) {
      statuses.add(somebody().signIn("hester.vane", "guess-" + i, "").status());
    }
    assertThat(statuses).containsExactly(401, 401, 401, 401, 401, 429, 429);
    Caller.Answer right = somebody().signIn("hester.vane", "larkmoor-demo", "");
    assertThat(right.status()).isEqualTo(429);
    assertThat(right.json().get("detail").stringValue()).contains("Wait two minutes");
    assertThat(somebody().signIn("pia.lund", "larkmoor-demo", "").status()).isEqualTo(200);
  }

  @Test
  void theSessionIsKeptInTheDatabaseAndEndsWithSigningOut() throws SQLException {
    Caller caller = Caller.as("noor.haddad", environment);
    try (var connection = database.getConnection();
        var found =
            connection
                .createStatement()
                .executeQuery(
                    "select count(*) from spring_session where principal_name = 'noor.haddad'")) {
      found.next();
      assertThat(found.getInt(1)).isPositive();
    }
    assertThat(caller.send("DELETE", "/api/session", "").status()).isEqualTo(204);
    assertThat(caller.get("/api/accounts").status()).isEqualTo(401);
  }

  @Test
  void theSessionsNameChangesWithSigningIn() {
    Caller caller = somebody();
    caller.signIn("tomas.brandt", "larkmoor-demo", "");
    String before = caller.cookie("MANDALA").orElseThrow();
    caller.signIn("tomas.brandt", "larkmoor-demo", "");
    assertThat(caller.cookie("MANDALA").orElseThrow()).isNotEqualTo(before);
  }

  @Test
  void aForeignPageCannotCall() {
    Caller caller = Caller.as("marten.holloway", environment);
    Caller.Answer answer = caller.sendUnprotected("PUT", "/api/model");
    assertThat(answer.status()).isEqualTo(403);
    assertThat(answer.json().get("detail").stringValue()).contains("protection token");
  }

  @Test
  void theWelcomeLinkIsNoUseWhereThereIsAnOwner() {
    assertThat(somebody().get("/api/welcome?token=guess").status()).isEqualTo(404);
  }

  @Test
  void passwordsAreKeptAsArgon2Hashes() throws SQLException {
    try (var connection = database.getConnection();
        var found =
            connection
                .createStatement()
                .executeQuery("select distinct left(password_hash, 9) from credential")) {
      found.next();
      assertThat(found.getString(1)).isEqualTo("$argon2id");
      assertThat(found.next()).isFalse();
    }
  }
}
