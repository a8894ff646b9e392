package mandala.server.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import mandala.core.model.Principal;
import mandala.server.Caller;
import mandala.server.Patience;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** First sign-ins and new passwords, and what is tried against them. */
class JoinTest extends LifecycleCase {

  private static final String ILSE = "ilse.varga";
  private static final String PASSWORD = "a lamp on the stairs";

  /** Kai is invited in the demo; here he has an address. */
  private Caller invited() {
    Caller ilse = as(ILSE);
    ok(
        ilse.send(
            "POST",
            "/api/drafts/open/edits",
            "{\"edits\":[{\"kind\":\"principals\",\"key\":\"kai.orrin\",\"set\":{\"email\":\"kai@larkmoor.example\"}}]}"));
    applied(ilse, ILSE);
    ok(ilse.send("POST", "/api/people/kai.orrin/invitation", ""));
    return ilse;
  }

  private Caller.Answer join(Map<String, String> proof, String password) {
    return post(new Caller(environment), "/api/join", Map.of("proof", proof, "password", password));
  }

  private Caller.Answer look(Map<String, String> proof) {
    return post(new Caller(environment), "/api/join/look", proof);
  }

  @Test
  void whoIsInvitedBecomesActiveByTheirFirstPassword() {
    invited();
    Map<String, String> proof = Map.of("token", token("kai.orrin"));
    JsonNode seen = ok(look(proof));
    assertThat(seen.get("key").stringValue()).isEqualTo("kai.orrin");
    assertThat(seen.get("first").booleanValue()).isTrue();
    refused(join(proof, "short"), 400, "The password is too short");
    refused(join(proof, "kai@larkmoor.example"), 400, "The password is easy to guess");
    assertThat(person("kai.orrin").status()).isEqualTo(Principal.Status.INVITED);

    ok(join(proof, PASSWORD));

    assertThat(person("kai.orrin").status()).isEqualTo(Principal.Status.ACTIVE);
    Caller kai = new Caller(environment);
    assertThat(kai.signIn("kai@larkmoor.example", PASSWORD, "").status()).isEqualTo(200);
    refused(join(proof, PASSWORD), 404, "was used before");
    assertThat(as(ILSE).get("/api/trail?text=Accepted+the+invitation").body())
        .contains("kai.orrin");
  }

  @Test
  void aLinkThatIsOldReplacedOrAlteredSaysTheSame() {
    Caller ilse = invited();
    String first = token("kai.orrin");
    ok(ilse.send("POST", "/api/people/kai.orrin/invitation", ""));
    String second = token("kai.orrin");
    assertThat(second).isNotEqualTo(first);
    String wrong = look(Map.of("token", "nothing-of-the-sort")).body();
    assertThat(look(Map.of("token", first)).body()).isEqualTo(wrong);
    assertThat(look(Map.of("token", second.substring(1))).body()).isEqualTo(wrong);
    assertThat(look(Map.of("token", second)).status()).isEqualTo(200);
    clock.move(Duration.ofDays(8));
    assertThat(look(Map.of("token", second)).body()).isEqualTo(wrong);
  }

  @Test
  void whoIsSuspendedOrLeavesMeanwhileCanNotUseTheirLink() {
    Caller ilse = invited();
    String token = token("kai.orrin");
    ok(
        ilse.send(
            "POST",
            "/api/drafts/open/edits",
            "{\"edits\":[{\"kind\":\"principals\",\"key\":\"kai.orrin\",\"set\":{\"status\":\"suspended\"}}]}"));
    applied(ilse, ILSE);
    refused(join(Map.of("token", token), PASSWORD), 404, "wrong, over, or was used before");
    refused(ilse.send("POST", "/api/people/kai.orrin/invitation", ""), 409, "They are suspended");
  }

  @Test
  void aFirstPasswordIsShownOnceAndMustBeChanged() {
    Caller ilse = as(ILSE);
    String made =
        ok(ilse.send("POST", "/api/people/kai.orrin/first-password", ""))
            .get("password")
            .stringValue();
    assertThat(
            database.queryForList(
                "select hash from sign_in_link where principal = 'kai.orrin'", String.class))
        .hasSize(1)
        .noneMatch(it -> it.contains(made));
    assertThat(new Caller(environment).signIn("kai.orrin", made, "").status())
        .as("not active until it is changed")
        .isEqualTo(401);
    Map<String, String> proof =
        Map.of("name", "kai.orrin", "firstPassword", made.toUpperCase(Locale.ROOT));
    assertThat(look(Map.of("name", "noor.haddad", "firstPassword", made)).status()).isEqualTo(404);
    ok(join(proof, PASSWORD));
    assertThat(new Caller(environment).signIn("kai.orrin", PASSWORD, "").status()).isEqualTo(200);
    refused(
        ilse.send("POST", "/api/people/noor.haddad/first-password", ""),
        409,
        "They have a password");
  }

  @Test
  void aNewPasswordEndsSessionsAndKeepsTheSecondFactor() {
    Caller ilse = as(ILSE);
    Caller vera = as("vera.lindqvist");
    String email = person("vera.lindqvist").email();
    assertThat(email).isNotNull();
    String was =
        database.queryForObject(
            "select password_hash from credential where principal = 'vera.lindqvist'",
            String.class);
    String factor =
        database.queryForObject(
            "select totp_secret from credential where principal = 'vera.lindqvist'", String.class);
    ok(ilse.send("POST", "/api/people/vera.lindqvist/invitation", ""));
    ok(join(Map.of("token", token("vera.lindqvist")), PASSWORD));
    assertThat(vera.get("/api/people").status()).isEqualTo(401);
    assertThat(
            database.queryForObject(
                "select totp_secret from credential where principal = 'vera.lindqvist'",
                String.class))
        .isEqualTo(factor);
    database.update(
        "update credential set password_hash = ? where principal = 'vera.lindqvist'", was);
  }

  @Test
  void whoForgotTheirPasswordGetsALinkAndStrangersTheSameAnswer() {
    Map<String, String> known = new HashMap<>();
    known.put("name", String.valueOf(person("noor.haddad").email()));
    Caller.Answer sent = post(new Caller(environment), "/api/join/forgotten", known);
    Caller.Answer none =
        post(new Caller(environment), "/api/join/forgotten", Map.of("name", "no@one.example"));
    assertThat(List.of(sent.status(), none.status())).containsExactly(202, 202);
    assertThat(sent.body()).isEqualTo(none.body());
    Patience.await()
        .untilAsserted(() ->
            assertThat(
                    database.queryForObject(
                        "select count(*) from mail where person = 'noor.haddad'", Integer.class))
                .isEqualTo(1));
    assertThat(mail("noor.haddad")).contains("asked for a new password");
    for (int i = 0; i < 3; i++) {
      post(new Caller(environment), "/api/join/forgotten", known);
    }
    refused(
        post(new Caller(environment), "/api/join/forgotten", known),
        429,
        "no more are sent for some minutes");
  }

  @Test
  void theOutboxKeepsLinksToItsRecipientOnceThereIsAMailServer() {
    invited();
    String link = "token=" + token("kai.orrin");
    assertThat(as("marten.holloway").get("/api/settings/mail").body()).contains(link);
    database.update("update mail set state = 'sent'");
    assertThat(as("marten.holloway").get("/api/settings/mail").body())
        .contains("/join?token=…")
        .doesNotContain(link);
  }

  @Test
  void signingOutEverywhereEndsEachSession() {
    Caller one = as("noor.haddad");
    Caller two = as("noor.haddad");
    JsonNode ended = ok(as(ILSE).send("POST", "/api/people/noor.haddad/sign-out", ""));
    assertThat(ended.get("sessions").intValue()).isGreaterThanOrEqualTo(2);
    assertThat(one.get("/api/people").status()).isEqualTo(401);
    assertThat(two.get("/api/people").status()).isEqualTo(401);
  }
}
