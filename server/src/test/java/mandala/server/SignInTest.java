package mandala.server;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.InetAddress;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.core.env.Environment;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.security.crypto.argon2.Argon2PasswordEncoder;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** Signing in: password, second factor, throttling, sessions in the database, protection. */
@ApiTest
@DirtiesContext
class SignInTest {

  @Autowired private Environment environment;
  @Autowired private javax.sql.DataSource database;

  @BeforeEach
  @AfterEach
  void asIfNobodyHadTried() {
    new JdbcTemplate(database).update("delete from sign_in_throttle");
    new JdbcTemplate(database).update("update credential set totp_last_step = -1");
  }

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

  /** The password in between gives no codes back. */
  @Test
  void codesHaveALimitOfTheirOwnThatAPasswordDoesNotGiveBack() {
    List<Integer> statuses = new ArrayList<>();
    for (int i = 0; i < 7; i++) {
      statuses.add(somebody().signIn("ilse.varga", "larkmoor-demo", "00000" + i).status());
      assertThat(somebody().signIn("ilse.varga", "larkmoor-demo", "").status()).isEqualTo(200);
    }
    assertThat(statuses).containsExactly(401, 401, 401, 401, 401, 429, 429);
    Caller caller = somebody();
    caller.signIn("ilse.varga", "larkmoor-demo", "");
    assertThat(caller.send("POST", "/api/session/second-factor", "{\"code\":\"000000\"}").status())
        .as("showing it later is no way around")
        .isEqualTo(429);
  }

  @Test
  void nobodyOutsideKeepsSomebodyWhoIsSignedInFromApplying() {
    Caller caller = Caller.as("marten.holloway", environment);
    for (int i = 0; i < 9; i++) {
      somebody().signIn("marten.holloway", "guess", "");
      somebody().signIn("marten.holloway", "larkmoor-demo", "000000");
    }
    assertThat(somebody().signIn("marten.holloway", "larkmoor-demo", "").status()).isEqualTo(429);
    Caller.Answer answer =
        caller.send("POST", "/api/drafts/open/apply", "{\"content\":\"x\",\"proof\":\"000000\"}");
    assertThat(answer.status()).as("there is no draft, but nobody is locked out").isEqualTo(404);
    caller.send("POST", "/api/drafts", "{\"name\":\"mine\"}");
    Caller.Answer wrong =
        caller.send("POST", "/api/drafts/open/apply", "{\"content\":\"x\",\"proof\":\"000000\"}");
    assertThat(wrong.status()).as(wrong.body()).isEqualTo(400);
  }

  @Test
  void secretsAreSealedAndOldHashesAreMadeAnewAtSigningIn() {
    JdbcTemplate tables = new JdbcTemplate(database);
    assertThat(
            tables.queryForList(
                "select totp_secret from credential where totp_secret is not null", String.class))
        .isNotEmpty()
        .allSatisfy(it -> assertThat(it).startsWith("v1:"));
    String weak = new Argon2PasswordEncoder(16, 32, 1, 4_096, 1).encode("larkmoor-demo");
    tables.update("update credential set password_hash = ? where principal = 'ada.finch'", weak);
    assertThat(somebody().signIn("ada.finch", "larkmoor-demo", "").status()).isEqualTo(200);
    assertThat(
            tables.queryForObject(
                "select password_hash from credential where principal = 'ada.finch'", String.class))
        .contains("m=19456,t=2,p=1");
  }

  @Test
  void aSecretThatIsMovedToSomebodyElseOpensForNobody() {
    JdbcTemplate tables = new JdbcTemplate(database);
    String own =
        tables.queryForObject(
            "select totp_secret from credential where principal = 'dario.penn'", String.class);
    tables.update("update credential set totp_secret = ? where principal = 'corin.bladen'", own);
    Caller.Answer answer = somebody().signIn("corin.bladen", "larkmoor-demo", "123456");
    assertThat(answer.status()).isEqualTo(401);
    tables.update("update credential set totp_secret = null where principal = 'corin.bladen'");
  }

  @Test
  void headersTellTheBrowserWhatNotToDo() throws Exception {
    HttpClient client = HttpClient.newHttpClient();
    HttpResponse<String> page =
        client.send(
            HttpRequest.newBuilder(
                    URI.create(
                        "http://127.0.0.1:"
                            + environment.getProperty("local.server.port")
                            + "/api/session"))
                .build(),
            HttpResponse.BodyHandlers.ofString());
    assertThat(page.headers().firstValue("Referrer-Policy")).contains("same-origin");
    assertThat(page.headers().firstValue("Permissions-Policy").orElse("")).contains("camera=()");
    assertThat(page.headers().firstValue("Set-Cookie").orElse("")).contains("SameSite=Strict");
  }

  /** A name that somebody points here, to read answers in a page of theirs. */
  @Test
  void anotherHostIsNotServed() throws Exception {
    int port = Integer.parseInt(environment.getRequiredProperty("local.server.port"));
    assertThat(statusFor("evil.example", port)).contains(" 400 ");
    assertThat(statusFor("localhost:" + port, port)).contains(" 200 ");
  }

  private static String statusFor(String host, int port) throws Exception {
    try (Socket socket = new Socket(InetAddress.getLoopbackAddress(), port)) {
      String call = "GET /api/session HTTP/1.1\r\nHost: " + host + "\r\nConnection: close\r\n\r\n";
      socket.getOutputStream().write(call.getBytes(StandardCharsets.US_ASCII));
      return new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
          .lines()
          .findFirst()
          .orElse("");
    }
  }

  @Test
  void headersOfAProxyThatIsNotNamedCountForNothing() {
    Caller caller = somebody();
    Caller.Answer answer =
        caller.send(
            "GET",
            "/api/session",
            HttpRequest.BodyPublishers.noBody(),
            Map.of("X-Forwarded-Proto", "https", "X-Forwarded-Host", "evil.example"));
    assertThat(answer.status()).isEqualTo(200);
  }

  @Test
  void healthIsUpForAllAndItsPartsForWhoManagesSettings() {
    assertThat(somebody().get("/actuator/health").body())
        .contains("UP")
        .doesNotContain("components");
    assertThat(Caller.as("tomas.brandt", environment).get("/actuator/health").body())
        .doesNotContain("components");
    new JdbcTemplate(database).update("delete from sign_in_throttle");
    new JdbcTemplate(database).update("update credential set totp_last_step = -1");
    assertThat(Caller.as("marten.holloway", environment).get("/actuator/health").body())
        .contains("components", "db");
  }

  @Test
  void aSessionEndsSoLongAfterSigningInHoweverMuchItIsUsed() {
    Caller caller = somebody();
    caller.signIn("pia.lund", "larkmoor-demo", "");
    assertThat(caller.get("/api/accounts").status()).isEqualTo(200);
    JdbcTemplate tables = new JdbcTemplate(database);
    tables.update(
        "delete from spring_session_attributes where attribute_name = 'mandala.signed-in-at'"
            + " and session_primary_id in (select primary_id from spring_session"
            + " where principal_name = 'pia.lund')");
    tables.update(
        "update spring_session set creation_time = creation_time - 13 * 3600 * 1000"
            + " where principal_name = 'pia.lund'");
    Caller.Answer late = caller.get("/api/accounts");
    assertThat(late.status()).isEqualTo(401);
    assertThat(late.body()).contains("older than 12 hours");
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
    assertThat(answer.json().get("detail").stringValue()).contains("session token is missing");
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
