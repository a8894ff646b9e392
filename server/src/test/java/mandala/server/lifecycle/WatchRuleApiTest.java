package mandala.server.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.StreamSupport;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Caller;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.beans.factory.annotation.Autowired;
import tools.jackson.databind.JsonNode;

/** Rules that watch: previewed, warning, acting, held up, and taken back. */
class WatchRuleApiTest extends LifecycleCase {

  private static final String PATH = "/api/watch-rules";

  @Autowired private WatchRun run;

  @BeforeEach
  void noRules() {
    List.of("watch_act", "watch_warning", "watch_rule", "notice")
        .forEach(it -> database.update("delete from " + it));
    database.update("delete from seen");
  }

  private static Map<String, Object> rule(String what, String account, int after) {
    Map<String, Object> rule = new HashMap<>();
    rule.put("title", "Not seen for long");
    rule.put("what", what);
    rule.put("account", account);
    rule.put("after", after);
    rule.put("most", 200);
    return rule;
  }

  private static List<String> found(JsonNode preview, String what) {
    return StreamSupport.stream(preview.get("first").spliterator(), false)
        .filter(it -> it.get("what").stringValue().equals(what))
        .map(it -> it.get("key").stringValue())
        .toList();
  }

  /** {@return after how many days a rule finds no more than so many in Quillhaven} */
  private int daysThatFind(int most) {
    Instant now = clock.instant();
    for (int days = 1; ; days++) {
      Instant last = now.minus(Duration.ofDays(days));
      long found =
          model.engine().catalogue().principals().values().stream()
              .filter(it -> it.account().value().equals("quillhaven"))
              .filter(it -> it.kind() == Principal.Kind.PERSON)
              .filter(it -> it.status() == Principal.Status.ACTIVE)
              .filter(it -> it.lastSeen() != null && !it.lastSeen().isAfter(last))
              .count();
      if (found <= most) {
        return days;
      }
    }
  }

  @Test
  void aRuleIsPreviewedActsAndIsTakenBack() {
    Caller ilse = as("ilse.varga");
    int days = daysThatFind(14);
    JsonNode preview = ok(post(ilse, PATH + "/preview", rule("persons", "quillhaven", days)));
    List<String> acting = found(preview, "acts");
    assertThat(acting).hasSize(preview.get("acts").intValue()).hasSizeBetween(1, 14);
    assertThat(history.changes(before, model.state().revision()).orElseThrow())
        .as("a preview changes nothing")
        .isEmpty();

    long number = ok(post(ilse, PATH, rule("persons", "quillhaven", days))).get("number").asLong();
    JsonNode after = ok(post(ilse, PATH + "/" + number + "/look", Map.of()));
    assertThat(after.at("/done/0/act").stringValue()).isEqualTo("acted");
    assertThat(after.at("/done/0/people").intValue()).isEqualTo(acting.size());
    long revision = after.at("/done/0/revision").asLong();
    acting.forEach(it -> assertThat(person(it).status()).isEqualTo(Principal.Status.SUSPENDED));
    assertThat(ilse.get("/api/trail").body()).contains("Made the rule “Not seen for long”");

    run.run(clock.instant());
    assertThat(model.state().revision()).as("they are suspended already").isEqualTo(revision);

    List<Change> done = history.changes(revision - 1, revision).orElseThrow();
    model.change(Draft.of(done).inverse().inOrder());
    acting.forEach(it -> assertThat(person(it).status()).isEqualTo(Principal.Status.ACTIVE));
  }

  @Test
  void whoIsWarnedHasTheTimeThatTheWarningSays() {
    Caller ilse = as("ilse.varga");
    Map<String, Object> rule = rule("persons", "quillhaven", 30);
    rule.put("warnAfter", 20);
    JsonNode preview = ok(post(ilse, PATH + "/preview", rule));
    assertThat(preview.get("acts").intValue()).as("nobody was warned so far").isZero();
    List<String> toWarn = found(preview, "warns");
    assertThat(toWarn).hasSizeGreaterThan(2);

    ok(post(ilse, PATH, rule));
    run.run(clock.instant());
    long withMail = toWarn.stream().filter(it -> person(it).email() != null).count();
    assertThat(mails()).isEqualTo(withMail);
    run.run(clock.instant());
    assertThat(mails()).as("each is warned once").isEqualTo(withMail);
    assertThat(person(toWarn.getFirst()).status()).isEqualTo(Principal.Status.ACTIVE);

    // one of them comes; the others do not, and their time is over after ten days
    String comes = toWarn.get(1);
    clock.move(Duration.ofDays(9));
    database.update(
        "insert into seen (principal, at) values (?, ?)",
        comes,
        clock.instant().atOffset(ZoneOffset.UTC));
    run.run(clock.instant());
    assertThat(person(toWarn.getFirst()).status()).isEqualTo(Principal.Status.ACTIVE);
    clock.move(Duration.ofDays(2));
    run.run(clock.instant());
    assertThat(person(toWarn.getFirst()).status()).isEqualTo(Principal.Status.SUSPENDED);
    assertThat(person(comes).status()).isEqualTo(Principal.Status.ACTIVE);
  }

  private long mails() {
    Long mails =
        database.queryForObject(
            "select count(*) from mail where subject like 'Your access ends on%'", Long.class);
    return mails == null ? 0 : mails;
  }

  @Test
  void aRuleThatWouldActOnTooManyWaitsForItsOwner() {
    Caller ilse = as("ilse.varga");
    Map<String, Object> rule = rule("persons", "quillhaven", 1);
    rule.put("most", 2);
    long number = ok(post(ilse, PATH, rule)).get("number").asLong();
    run.run(clock.instant());
    JsonNode waits = ok(ilse.get(PATH)).at("/rules/0");
    assertThat(waits.get("heldUp").stringValue()).contains("at once, and may on 2");
    assertThat(waits.get("done")).isEmpty();
    assertThat(history.changes(before, model.state().revision()).orElseThrow()).isEmpty();
    assertThat(ilse.get("/api/notices").body()).contains("waits. It would act on");
    ok(ilse.send("DELETE", PATH + "/" + number, ""));
    assertThat(ok(ilse.get(PATH)).get("rules")).isEmpty();
  }

  @Test
  void guestsEndInvitationsLapseAndServicesAreReported() {
    clock.move(Duration.ofDays(400));
    Caller ilse = as("ilse.varga");
    for (String what : List.of("guests", "services", "invitations")) {
      ok(post(ilse, PATH, rule(what, "larkmoor", 100)));
    }
    assertThat(guests()).isNotEmpty();
    assertThat(invited()).isNotEmpty();
    run.run(clock.instant());
    assertThat(guests()).as("nobody was seen for 400 days").isEmpty();
    assertThat(ilse.get("/api/notices").body()).contains("services that are not used");
    JsonNode rules = ok(ilse.get(PATH)).get("rules");
    assertThat(rules.get(0).at("/done/0/act").stringValue()).isEqualTo("acted");
    assertThat(rules.get(1).at("/done/0/act").stringValue()).isEqualTo("reported");
    assertThat(rules.get(2).get("done")).as("time counts from the rule").isEmpty();
    assertThat(invited()).isNotEmpty();
    clock.move(Duration.ofDays(101));
    run.run(clock.instant());
    assertThat(invited()).isEmpty();
  }

  private List<Guest> guests() {
    Catalogue in = model.engine().catalogue();
    return in.guests().stream()
        .filter(it -> in.isAtOrBelow(it.account(), new AccountKey("larkmoor")))
        .filter(it -> {
          Principal who = in.principals().get(it.principal());
          return who != null
              && who.status() == Principal.Status.ACTIVE
              && in.isAtOrBelow(who.account(), new AccountKey("larkmoor"));
        })
        .filter(it -> it.window().holdsAt(clock.instant().plusSeconds(1)))
        .toList();
  }

  private List<Principal> invited() {
    Catalogue in = model.engine().catalogue();
    return in.principals().values().stream()
        .filter(it -> it.status() == Principal.Status.INVITED)
        .filter(it -> in.isAtOrBelow(it.account(), new AccountKey("larkmoor")))
        .toList();
  }

  @Test
  void signingInCountsAsBeingSeen() {
    Principal noor = person("noor.haddad");
    Caller ilse = as("ilse.varga");
    as("noor.haddad");
    JsonNode page = ok(ilse.get("/api/rights/people/noor.haddad"));
    assertThat(Instant.parse(page.get("lastSeen").stringValue()))
        .isAfter(clock.instant().minusSeconds(600));
    assertThat(noor.lastSeen())
        .as("the model is as it was")
        .isEqualTo(person("noor.haddad").lastSeen());
    assertThat(ilse.get("/api/people?unseen=1&text=noor.haddad").json().get("total").intValue())
        .isZero();
  }

  @ParameterizedTest
  @CsvSource({
    "dario.penn, quillhaven, 404",
    "vera.lindqvist, quillhaven, 403",
    "noor.haddad, quillhaven, 403",
    "ilse.varga, nowhere, 404"
  })
  void whoMayNotManageTheAccountMakesNoRuleForIt(String who, String account, int status) {
    for (String act : List.of("", "/preview")) {
      Caller.Answer refused = post(as(who), PATH + act, rule("persons", account, 90));
      assertThat(refused.status()).as(refused.body()).isEqualTo(status);
    }
    assertThat(ok(as(who).get(PATH)).get("rules")).isEmpty();
  }

  @Test
  void aRuleOfAnotherAccountIsNotThere() {
    long number =
        ok(post(as("ilse.varga"), PATH, rule("persons", "quillhaven", 90))).get("number").asLong();
    Caller dario = as("dario.penn");
    assertThat(ok(dario.get(PATH)).get("rules")).isEmpty();
    refused(post(dario, PATH + "/" + number + "/look", Map.of()), 404, "no rule");
    refused(dario.send("DELETE", PATH + "/" + number, ""), 404, "no rule");
    refused(
        dario.send("PUT", PATH + "/" + number, json(rule("persons", "fernwick", 90))),
        404,
        "no rule");
    // his own acts on nobody elsewhere
    ok(post(dario, PATH, rule("persons", "fernwick", 1)));
    run.run(clock.instant());
    assertThat(history.changes(before, model.state().revision()).orElseThrow())
        .isNotEmpty()
        .allSatisfy(it -> {
          Principal who = (Principal) it.things().getFirst();
          assertThat(who.account().value()).isEqualTo("fernwick");
          assertThat(who.key()).isNotEqualTo(new PrincipalKey("dario.penn"));
        });
  }

  @ParameterizedTest
  @CsvSource({"after,0", "after,9999", "warnAfter,90", "most,0", "what,witches", "group,nobodies"})
  void aFaultyRuleIsRefusedInWords(String field, String value) {
    Map<String, Object> rule = rule("persons", "quillhaven", 90);
    rule.put(field, value.matches("\\d+") ? (Object) Integer.valueOf(value) : value);
    Caller.Answer refused = post(as("ilse.varga"), PATH, rule);
    assertThat(refused.status()).as(refused.body()).isIn(400, 404);
    assertThat(refused.json().path("detail").asString("")).isNotBlank();
    assertThat(ok(as("ilse.varga").get(PATH)).get("rules")).isEmpty();
  }
}
