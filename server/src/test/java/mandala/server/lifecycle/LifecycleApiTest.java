package mandala.server.lifecycle;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import mandala.core.lifecycle.Ties;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Caller;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;
import tools.jackson.databind.JsonNode;

/** Guided acts on people, over the API. */
class LifecycleApiTest extends LifecycleCase {

  private static final String ILSE = "ilse.varga";

  private static List<String> ids(JsonNode ties) {
    List<String> all = new ArrayList<>();
    ties.get("ties").forEach(it -> all.add(it.get("id").stringValue()));
    return all;
  }

  private List<String> idsNow(String key) {
    return List.copyOf(Ties.of(model.engine().catalogue(), person(key)).byId().keySet());
  }

  private Instant in(int days) {
    return clock.instant().plus(Duration.ofDays(days)).truncatedTo(ChronoUnit.SECONDS);
  }

  @Test
  void aCopyLeavesOutWhatIsByExceptionUnlessChosen() {
    Caller ilse = as(ILSE);
    JsonNode ties = ok(ilse.get("/api/people/petra.lowe/ties?act=copy"));
    List<String> usual = new ArrayList<>();
    List<String> exceptions = new ArrayList<>();
    for (JsonNode it : ties.get("ties")) {
      if (it.get("sort").stringValue().equals("access")) {
        (it.has("exception") ? exceptions : usual).add(it.get("id").stringValue());
      }
    }
    assertThat(exceptions).as(ties.toString()).isNotEmpty();
    Map<String, Object> order =
        Map.of(
            "newcomer",
            Map.of("name", "Juno Teasel", "email", "juno.teasel@larkmoor.example"),
            "ties",
            usual);
    JsonNode seen = ok(post(ilse, "/api/people/petra.lowe/copies/preview", order));
    assertThat(seen.at("/newcomer/rights").asLong())
        .isPositive()
        .isLessThan(seen.at("/colleague/rights").asLong());

    JsonNode made = ok(post(ilse, "/api/people/petra.lowe/copies", order));
    assertThat(made.get("person").stringValue()).isEqualTo("juno-teasel");
    applied(ilse, ILSE);

    Principal juno = person("juno-teasel");
    assertThat(juno.status()).isEqualTo(Principal.Status.INVITED);
    assertThat(juno.unit()).isEqualTo(person("petra.lowe").unit());
    assertThat(idsNow("juno-teasel").stream().filter(it -> it.startsWith("group:")))
        .containsExactlyElementsOf(usual.stream().filter(it -> it.startsWith("group:")).toList());
    assertThat(mail("juno-teasel")).startsWith("Hello Juno Teasel,").contains("/join?token=");
    refused(
        post(ilse, "/api/people/petra.lowe/copies", order),
        409,
        "Somebody has the address 'juno.teasel@larkmoor.example' already");
  }

  @Test
  void whoMovesKeepsForAGraceTimeWhatTheyMustFinish() {
    Caller ilse = as(ILSE);
    String who = "odile.farrow";
    Principal was = person(who);
    JsonNode ties =
        ok(ilse.get("/api/people/" + who + "/ties?act=move&account=fernwick&grace=true"));
    Map<String, Object> fates = new HashMap<>();
    for (JsonNode it : ties.get("ties")) {
      fates.put(it.get("id").stringValue(), Map.of("becomes", it.get("usually").stringValue()));
    }
    Instant grace = in(14);
    Map<String, Object> order =
        Map.of(
            "account",
            "fernwick",
            "grace",
            grace.plusMillis(500).toString(),
            "fates",
            fates,
            "joins",
            List.of());
    refused(
        post(
            ilse,
            "/api/people/" + who + "/moves",
            Map.of(
                "account",
                "fernwick",
                "at",
                in(20).toString(),
                "grace",
                grace.toString(),
                "fates",
                fates,
                "joins",
                List.of())),
        400,
        "The grace time ends before the move");

    ok(post(ilse, "/api/people/" + who + "/moves", order));
    applied(ilse, ILSE);

    assertThat(person(who).account()).isEqualTo(new AccountKey("fernwick"));
    List<String> kept =
        fates.entrySet().stream()
            .filter(it -> it.getValue().equals(Map.of("becomes", "until")))
            .map(Map.Entry::getKey)
            .toList();
    assertThat(kept).as(ties.toString()).isNotEmpty();
    assertThat(idsNow(who)).containsAll(kept);
    assertThat(model.engine().catalogue().guests())
        .anyMatch(it ->
            it.principal().equals(was.key())
                && it.account().equals(was.account())
                && grace.equals(it.window().until()));
    assertThat(ok(ilse.get("/api/people/" + who + "/standing")).at("/planned/0/said").stringValue())
        .isEqualTo("Loses what they keep for the grace time after the move");
    clock.move(Duration.ofDays(15));
    planned.run(clock.instant());
    assertThat(idsNow(who)).doesNotContainAnyElementsOf(kept);
    assertThat(model.engine().catalogue().guests())
        .noneMatch(it -> it.principal().equals(was.key()) && it.account().equals(was.account()));
  }

  @Test
  void aMoveOfADateHappensByItselfAndWaitsWhereItsOwnerMayNot() {
    Caller ilse = as(ILSE);
    String who = "noor.haddad";
    Map<String, Object> order =
        Map.of(
            "account",
            "quillhaven",
            "title",
            "Head registrar",
            "at",
            in(3).toString(),
            "fates",
            Map.of(),
            "joins",
            List.of());
    JsonNode planned = ok(post(ilse, "/api/people/" + who + "/moves", order));
    assertThat(planned.has("draft")).isFalse();
    this.planned.run(clock.instant());
    assertThat(person(who).attributes().get("title")).isNotEqualTo("Head registrar");

    clock.move(Duration.ofDays(4));
    database.update("update planned_act set owner = 'vera.lindqvist'");
    this.planned.run(clock.instant());
    assertThat(person(who).attributes().get("title")).isNotEqualTo("Head registrar");
    assertThat(database.queryForObject("select held_up from planned_act", String.class))
        .contains("access does not cover");
    database.update("update planned_act set owner = ?", ILSE);
    this.planned.run(clock.instant());
    assertThat(person(who).attributes()).containsEntry("title", "Head registrar");
    assertThat(database.queryForObject("select outcome from planned_act", String.class))
        .isEqualTo("done");
    long revision = model.state().revision();
    this.planned.run(clock.instant());
    assertThat(model.state().revision()).as("happens once").isEqualTo(revision);
  }

  @Test
  void whatWasPlannedIsTakenBackBeforeItsDate() {
    Caller ilse = as(ILSE);
    JsonNode made =
        ok(
            post(
                ilse,
                "/api/people/noor.haddad/parting",
                Map.of("at", in(3).toString(), "fates", Map.of())));
    String act = "/api/people/noor.haddad/planned/" + made.get("planned");
    ok(ilse.send("DELETE", act, ""));
    refused(ilse.send("DELETE", act, ""), 404, "This is not planned");
    clock.move(Duration.ofDays(4));
    planned.run(clock.instant());
    assertThat(person("noor.haddad").status()).isEqualTo(Principal.Status.ACTIVE);
  }

  @Test
  void whoPartsHandsOverWhatTheyOwnAndComesBackWithNothingByItself() {
    Caller ilse = as(ILSE);
    String who = "tomas.brandt";
    ok(
        ilse.send(
            "POST",
            "/api/drafts/open/edits",
            "{\"edits\":[{\"kind\":\"groups\",\"key\":\"f-couriers\","
                + "\"add\":{\"members\":[\"person:tomas.brandt\"]}}]}"));
    applied(ilse, ILSE);
    Caller tomas = as(who);
    assertThat(tomas.get("/api/people").status()).isEqualTo(200);
    JsonNode ties = ok(ilse.get("/api/people/" + who + "/ties?act=part"));
    Map<String, Object> fates = new HashMap<>();
    for (JsonNode it : ties.get("ties")) {
      if (it.get("sort").stringValue().equals("duty")) {
        fates.put(it.get("id").stringValue(), Map.of("becomes", "hand", "to", "petra.lowe"));
      }
    }
    assertThat(fates).isNotEmpty();
    ok(post(ilse, "/api/people/" + who + "/parting", Map.of("fates", fates)));
    applied(ilse, ILSE);

    assertThat(person(who).status()).isEqualTo(Principal.Status.LEFT);
    assertThat(idsNow(who)).isEmpty();
    assertThat(idsNow("petra.lowe"))
        .containsAll(
            fates.keySet().stream().filter(it -> !it.equals("report:petra.lowe")).toList());
    assertThat(tomas.get("/api/people").status()).as("the session ended").isEqualTo(401);
    assertThat(
            database.queryForObject(
                "select count(*) from credential where principal = ?", Integer.class, who))
        .isZero();

    JsonNode had = ok(ilse.get("/api/people/" + who + "/had"));
    assertThat(had.get("had")).isNotEmpty();
    String chosen = had.at("/had/0/id").stringValue();
    ok(post(ilse, "/api/people/" + who + "/return", Map.of("ties", List.of(chosen))));
    applied(ilse, ILSE);
    assertThat(person(who).status()).isEqualTo(Principal.Status.INVITED);
    assertThat(idsNow(who)).hasSize(1);
    refused(
        post(ilse, "/api/people/" + who + "/return", Map.of("ties", List.of())),
        409,
        "They have not left");
    database.update(
        "insert into credential (principal, password_hash, totp_last_step)"
            + " select ?, password_hash, -1 from credential where principal = ?",
        who,
        ILSE);
  }

  @Test
  void everythingEndsNowWhileTheyWork() {
    Caller ilse = as(ILSE);
    Caller noor = as("noor.haddad");
    assertThat(noor.get("/api/people").status()).isEqualTo(200);
    Map<String, Object> wrong = Map.of("proof", "000000", "reason", "Lost laptop");
    Caller.Answer no = post(ilse, "/api/people/noor.haddad/end-now", wrong);
    refused(no, 400, "The code is not right");
    assertThat(person("noor.haddad").status()).isEqualTo(Principal.Status.ACTIVE);

    JsonNode ended =
        ok(
            post(
                ilse,
                "/api/people/noor.haddad/end-now",
                Map.of("proof", code(ILSE), "reason", "Lost laptop")));

    assertThat(ended.get("sessions").intValue()).isPositive();
    assertThat(person("noor.haddad").status()).isEqualTo(Principal.Status.SUSPENDED);
    assertThat(noor.get("/api/session").json().has("who")).isFalse();
    assertThat(noor.get("/api/people").status()).isEqualTo(401);
    assertThat(ilse.get("/api/trail?text=End+all+access").body()).contains("Noor Haddad");
    refused(
        post(ilse, "/api/people/" + ILSE + "/end-now", Map.of("proof", code(ILSE), "reason", "Me")),
        409,
        "This is you");
  }

  @Test
  void twoRecordsOfOnePersonBecomeOne() {
    Caller ilse = as(ILSE);
    List<String> both = new ArrayList<>(idsNow("pia.lund"));
    both.addAll(idsNow("ada.finch"));
    ok(post(ilse, "/api/people/ada.finch/merge", Map.of("into", "pia.lund")));
    applied(ilse, ILSE);
    assertThat(model.engine().catalogue().principals().get(new PrincipalKey("ada.finch"))).isNull();
    assertThat(idsNow("pia.lund"))
        .containsAll(both.stream().filter(it -> it.startsWith("group:")).toList());
    refused(
        post(ilse, "/api/people/pia.lund/merge", Map.of("into", "pia.lund")),
        409,
        "They can't be merged");
  }

  @Test
  void whoSharedASignInGetTheirOwn() {
    Caller ilse = as(ILSE);
    List<String> had = idsNow("pia.lund");
    ok(
        post(
            ilse,
            "/api/people/pia.lund/split",
            Map.of(
                "parts",
                List.of(
                    Map.of("newcomer", Map.of("name", "Pia One"), "ties", had),
                    Map.of("newcomer", Map.of("name", "Pia Two"), "ties", List.of())),
                "duties",
                Map.of())));
    applied(ilse, ILSE);
    assertThat(person("pia.lund").status()).isEqualTo(Principal.Status.LEFT);
    assertThat(idsNow("pia-one").stream().filter(it -> it.startsWith("group:")))
        .containsExactlyElementsOf(had.stream().filter(it -> it.startsWith("group:")).toList());
    assertThat(idsNow("pia-two")).isEmpty();
  }

  static Stream<Arguments> acts() {
    Map<String, Object> newcomer = Map.of("name", "Nobody New");
    return Stream.of(
        Arguments.of("copies", Map.of("newcomer", newcomer, "ties", List.of())),
        Arguments.of("moves", Map.of("account", "fernwick", "fates", Map.of(), "joins", List.of())),
        Arguments.of("parting", Map.of("fates", Map.of())),
        Arguments.of("return", Map.of("ties", List.of())),
        Arguments.of("merge", Map.of("into", "pia.lund")),
        Arguments.of(
            "split",
            Map.of(
                "parts",
                List.of(
                    Map.of("newcomer", newcomer, "ties", List.of()),
                    Map.of("newcomer", newcomer, "ties", List.of())),
                "duties",
                Map.of())),
        Arguments.of("end-now", Map.of("proof", "123456", "reason", "No reason")),
        Arguments.of("invitation", Map.of()),
        Arguments.of("first-password", Map.of()),
        Arguments.of("sign-out", Map.of()));
  }

  @ParameterizedTest
  @MethodSource("acts")
  void whoManagesAnotherAccountFindsNobodyHere(String act, Map<String, Object> body) {
    // Dario looks after Fernwick; Noor is at home in Quillhaven
    refused(post(as("dario.penn"), "/api/people/noor.haddad/" + act, body), 404, "nobody called");
    nothingCameOfIt();
  }

  @ParameterizedTest
  @MethodSource("acts")
  void whoMayOnlyReadIsRefused(String act, Map<String, Object> body) {
    Caller vera = as("vera.lindqvist");
    Caller.Answer answer = post(vera, "/api/people/noor.haddad/" + act, body);
    if (act.equals("copies")) { // changes nobody who is there: it is judged with the draft
      ok(answer);
      assertThat(vera.get("/api/drafts/open").json().at("/changes/0/refusals")).isNotEmpty();
      database.update("delete from draft_author");
      database.update("delete from draft");
    } else {
      refused(answer, 403, "You need “Manage people”");
    }
    nothingCameOfIt();
  }

  private void nothingCameOfIt() {
    assertThat(history.changes(before, model.state().revision()).orElseThrow()).isEmpty();
    for (String table : List.of("draft", "sign_in_link", "planned_act", "mail")) {
      assertThat(database.queryForObject("select count(*) from " + table, Integer.class)).isZero();
    }
  }

  @Test
  void whoIsLentComesBackByThemselves() {
    Caller ilse = as(ILSE);
    String who = "petra.lowe";
    Principal was = person(who);
    String group =
        model.engine().catalogue().groups().values().stream()
            .filter(it -> it.account().value().equals("fernwick") && it.rule() == null)
            .map(it -> it.key().value())
            .findFirst()
            .orElseThrow();
    Instant until = in(30);
    Map<String, Object> order =
        Map.of(
            "account",
            "fernwick",
            "until",
            until.plusMillis(500).toString(), // the model keeps whole seconds
            "sponsor",
            "dario.penn",
            "joins",
            List.of(group));
    String path = "/api/people/" + who + "/loans";
    Map<String, Object> past = new HashMap<>(order);
    past.put("until", in(-1).toString());
    refused(post(ilse, path, past), 400, "The loan ends in the past");
    past.put("until", in(500).toString());
    refused(post(ilse, path, past), 400, "Choose an earlier date");
    past.put("until", until.toString());
    past.put("joins", List.of("q-registrars"));
    refused(post(ilse, path, past), 400, "There is no group 'q-registrars' in that account");
    past.put("joins", List.of());
    past.put("account", was.account().value());
    refused(post(ilse, path, past), 409, "They belong to the account already");
    past.put("account", "nowhere");
    refused(post(ilse, path, past), 404, "nowhere");
    past.put("account", "fernwick");
    past.put("from", in(40).toString());
    refused(post(ilse, path, past), 400, "It ends before it begins");
    nothingCameOfIt();

    ok(post(ilse, path, order));
    applied(ilse, ILSE);
    assertThat(person(who)).as("at home where they were").isEqualTo(was);
    assertThat(idsNow(who)).contains("guest:fernwick", "group:" + group);
    assertThat(ok(ilse.get("/api/people/" + who + "/standing")).at("/planned/0/said").stringValue())
        .isEqualTo("Comes back from Fernwick Gallery");
    clock.move(Duration.ofDays(31));
    planned.run(clock.instant());
    assertThat(idsNow(who)).doesNotContain("guest:fernwick", "group:" + group);
    assertThat(ok(as(ILSE).get("/api/people/" + who + "/standing")).get("planned")).isEmpty();
  }

  @Test
  void whoHasNoRightsIsToldOfNobody() {
    Caller noor = as("noor.haddad");
    for (String path : List.of("ties?act=copy", "standing", "had")) {
      Caller.Answer one = noor.get("/api/people/marten.holloway/" + path);
      Caller.Answer none = noor.get("/api/people/nobody.at.all/" + path);
      assertThat(one.status()).as(one.body()).isEqualTo(404);
      assertThat(one.body().replace("marten.holloway", "X"))
          .isEqualTo(none.body().replace("nobody.at.all", "X"));
    }
  }

  @Test
  void aNameOfATieThatIsNotThereIsRefusedAndNothingIsKept() {
    Caller ilse = as(ILSE);
    refused(
        post(
            ilse,
            "/api/people/odile.farrow/parting",
            Map.of("fates", Map.of("group:none", Map.of("becomes", "end")))),
        409,
        "What they have has changed meanwhile");
    refused(
        post(
            ilse,
            "/api/people/odile.farrow/moves",
            Map.of("account", "nowhere", "fates", Map.of(), "joins", List.of())),
        404,
        "There is no account 'nowhere'");
    assertThat(ids(ok(ilse.get("/api/people/odile.farrow/ties")))).isNotEmpty();
    assertThat(database.queryForObject("select count(*) from draft", Integer.class)).isZero();
  }
}
