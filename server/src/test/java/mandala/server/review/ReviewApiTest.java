package mandala.server.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import mandala.core.change.Change;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Expectation;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Altered;
import mandala.server.ApiTest;
import mandala.server.Caller;
import mandala.server.MovableClock;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.springframework.context.annotation.Import;
import org.springframework.test.annotation.DirtiesContext;
import tools.jackson.databind.JsonNode;

/** Rounds are made, their items decided with evidence, and whoever runs them sees how it goes. */
@ApiTest
@Import(MovableClock.Moves.class)
@DirtiesContext
class ReviewApiTest extends ReviewCase {

  private static final String ODILES_LOANS = "assignment odile-loans-f";

  // ---- rounds -----------------------------------------------------------------------------------

  @Test
  void aPreviewCountsItemsAndWhatEachReviewerGets() {
    JsonNode it = ok(as("anselm.reeve").send("POST", "/api/reviews/preview", order(MANAGERS, "")));
    int sum = 0;
    for (JsonNode load : it.get("loads")) {
      sum += load.get("items").intValue();
    }
    assertThat(it.get("items").intValue()).isGreaterThan(20).isEqualTo(sum);
    assertThat(it.get("nobody").intValue()).isZero();
    String managers = "[{\"order\": [\"manager\"]}]";
    JsonNode other =
        ok(as("anselm.reeve").send("POST", "/api/reviews/preview", order(managers, "")));
    assertThat(other.get("nobody").intValue()).isPositive();
    assertThat(other.get("without")).isNotEmpty();
  }

  @Test
  void aRoundIsMadeAndItsReviewersGetANotice() {
    long round = made();
    JsonNode detail = ok(as("anselm.reeve").get("/api/reviews/" + round));
    assertThat(detail.at("/round/state").stringValue()).isEqualTo("open");
    assertThat(detail.at("/round/items").intValue()).isGreaterThan(20);
    assertThat(database.queryForList("select said from notice where person = 'tomas.brandt'"))
        .singleElement()
        .asString()
        .contains("items wait for your decision in “Quarterly”");
    JsonNode waits = ok(as("tomas.brandt").get("/api/reviews"));
    assertThat(waits.at("/mine/0/number").longValue()).isEqualTo(round);
    assertThat(waits.get("runs")).isEmpty();
  }

  @ParameterizedTest
  @CsvSource({
    "noor.haddad, 403",
    "tomas.brandt, 403",
    "dario.penn, 404",
    "vera.lindqvist, 403",
    "anselm.reeve, 200",
    "ilse.varga, 200"
  })
  void whoMayRunReviewsMakesRounds(String who, int status) {
    assertThat(as(who).send("POST", "/api/reviews/preview", order(MANAGERS, "")).status())
        .isEqualTo(status);
  }

  @Test
  void badOrdersSayWhatAndWhere() {
    Caller anselm = as("anselm.reeve");
    for (String wrong :
        List.of(
            order(MANAGERS, ", \"place\": \"nowhere\""),
            order("[{\"order\": [\"boss\"]}]", ""),
            order("[{\"order\": [\"person:nobody\"]}]", ""),
            order(MANAGERS, "").replace("\"high\"", "\"huge\""),
            order(MANAGERS, "").replace("\"fernwick\"", "\"atlantis\""),
            order(MANAGERS, "").replace("\"never\"", "\"hourly\""))) {
      Caller.Answer answer = anselm.send("POST", "/api/reviews", wrong);
      assertThat(answer.status()).as(wrong).isIn(400, 404);
      assertThat(answer.json().get("detail").stringValue()).isNotBlank();
    }
    assertThat(database.queryForList("select 1 from review_round")).isEmpty();
  }

  @Test
  void aPlannedRoundBeginsAtItsTimeWithTheRightsOfItsOwnerThen() {
    String later = order(MANAGERS, "", clock.instant().plus(Duration.ofDays(1)));
    long round =
        ok(as("anselm.reeve").send("POST", "/api/reviews/plans", later)).get("round").longValue();
    watch.run(clock.instant());
    assertThat(state(round)).isEqualTo("planned");
    Principal anselm = principal("anselm.reeve");
    Principal away = Altered.with(anselm, "status", "suspended");
    model.change(List.of(new Change.Altered(anselm, away)));
    clock.move(Duration.ofDays(1).plusMinutes(1)); // from here on it may begin by itself
    watch.run(clock.instant());
    assertThat(state(round)).isEqualTo("planned");
    assertThat(database.queryForObject("select held_up from review_round", String.class))
        .contains("not active");
    model.change(List.of(new Change.Altered(away, anselm)));
    watch.run(clock.instant());
    assertThat(state(round)).isEqualTo("open");
  }

  private Principal principal(String key) {
    Principal it = model.engine().catalogue().principals().get(new PrincipalKey(key));
    assertThat(it).isNotNull();
    return it;
  }

  private String state(long round) {
    return Objects.requireNonNull(
        database.queryForObject(
            "select state from review_round where number = ?", String.class, round));
  }

  @Test
  void aRoundIsCancelledWithItsReason() {
    long round = made();
    Caller anselm = as("anselm.reeve");
    ok(
        anselm.send(
            "POST", "/api/reviews/" + round + "/cancel", "{\"reason\": \"The wrong quarter\"}"));
    assertThat(state(round)).isEqualTo("cancelled");
    assertThat(as("tomas.brandt").get("/api/reviews/" + round + "/items/" + 1).status())
        .isIn(404, 409);
    assertThat(
            anselm
                .send("POST", "/api/reviews/" + round + "/cancel", "{\"reason\": \"Again\"}")
                .status())
        .isEqualTo(409);
  }

  @Test
  void itemsAreGivenToOthersButNeverToWhomTheyAreAbout() {
    long round = made();
    int before = mine("tomas.brandt", round).size();
    Caller anselm = as("anselm.reeve");
    int given =
        ok(anselm.send(
                "POST",
                "/api/reviews/" + round + "/give",
                "{\"from\": \"tomas.brandt\", \"to\": \"odile.farrow\"}"))
            .get("changed")
            .intValue();
    assertThat(given).isPositive().isLessThan(before);
    for (JsonNode it : mine("odile.farrow", round)) {
      assertThat(it.get("about").stringValue()).isNotEqualTo("odile.farrow");
    }
    for (JsonNode it : mine("tomas.brandt", round)) {
      assertThat(it.get("about").stringValue()).isEqualTo("odile.farrow");
    }
  }

  @Test
  void aRoundEndsAndTheNextIsPlannedWhereItRepeats() {
    long round =
        made(order(MANAGERS, "").replace("\"repeats\": \"never\"", "\"repeats\": \"quarterly\""));
    clock.move(Duration.ofDays(15));
    watch.run(clock.instant());
    assertThat(state(round)).isEqualTo("closed");
    assertThat(
            database.queryForList(
                "select state from review_round where cause = ?",
                String.class,
                "it repeats round " + round))
        .containsExactly("planned");
  }

  // ---- deciding ---------------------------------------------------------------------------------

  @Test
  void aManagerSeesWhatAnItemTakesAndNothingElseOfTheDirectory() {
    long round = made();
    Caller tomas = as("tomas.brandt");
    JsonNode it = ok(tomas.get(item(round, number(round, ODILES_LOANS))));
    assertThat(it.get("takes").longValue()).isPositive();
    assertThat(it.at("/row/aboutName").stringValue()).isEqualTo("Odile Farrow");
    assertThat(it.at("/row/said").stringValue()).contains("Loans");
    assertThat(it.has("remaining")).as("all of her access").isFalse();
    assertThat(it.at("/colleagues/all").stringValue()).isNotBlank();
    assertThat(tomas.get("/api/people/odile.farrow").status()).isEqualTo(404);
    assertThat(as("noor.haddad").get(item(round, 1)).status()).isEqualTo(404);
  }

  @Test
  void keepingHighRiskNeedsAReasonAndADecisionCanBeUndone() {
    long round = made();
    int number = number(round, ODILES_LOANS);
    Caller tomas = as("tomas.brandt");
    Caller.Answer without = decide(tomas, round, number, "\"verdict\": \"keep\"");
    assertThat(without.status()).isEqualTo(400);
    assertThat(without.body()).contains("needs a reason");
    JsonNode kept =
        ok(decide(tomas, round, number, "\"verdict\": \"keep\", \"reason\": \"Covers for Lotte\""));
    assertThat(kept.get("state").stringValue()).isEqualTo("decided");
    assertThat(kept.get("reason").stringValue()).isEqualTo("Covers for Lotte");
    JsonNode undone = ok(tomas.send("DELETE", item(round, number) + "/decision", ""));
    assertThat(undone.get("state").stringValue()).isEqualTo("open");
    assertThat(ok(tomas.get(item(round, number))).get("history")).hasSize(2);
  }

  @Test
  void decisionsTogetherSayWhatTheyDoAndCountWhenFinished() {
    long round = made();
    int number = number(round, ODILES_LOANS);
    Caller tomas = as("tomas.brandt");
    long takes = ok(tomas.get(item(round, number))).get("takes").longValue();
    ok(decide(tomas, round, number, "\"verdict\": \"remove\""));
    JsonNode effect = ok(tomas.get("/api/reviews/" + round + "/effect"));
    assertThat(effect.get("lost").longValue()).isEqualTo(takes);
    assertThat(effect.get("people").intValue()).isEqualTo(1);
    assertThat(effect.get("gained").longValue()).isZero();
    assertThat(effect.get("broken")).isEmpty();
    assertThat(
            ok(tomas.send("POST", "/api/reviews/" + round + "/finish", ""))
                .get("changed")
                .intValue())
        .isEqualTo(1);
    assertThat(tomas.send("DELETE", item(round, number) + "/decision", "").status()).isEqualTo(409);
    assertThat(database.queryForList("select said from trail where said like 'Finished%'"))
        .isNotEmpty();
  }

  @Test
  void anExpectationThatWouldBreakBlocksUntilSomebodyAnswersForIt() {
    Assignment hers =
        model.engine().catalogue().assignments().get(new AssignmentKey("odile-loans-f"));
    assertThat(hers).isNotNull();
    Expectation leads =
        new Expectation(
            new ExpectationKey("odile-leads"),
            About.named("Odile leads loans"),
            new AccountKey("fernwick"),
            Expectation.Form.CAN,
            List.of(hers.subject()),
            List.of(new PermissionKey("loan.approve")),
            hers.scope(),
            null,
            null);
    model.change(List.of(new Change.Added(leads)));
    try {
      long round = made();
      int number = number(round, ODILES_LOANS);
      Caller tomas = as("tomas.brandt");
      ok(decide(tomas, round, number, "\"verdict\": \"remove\""));
      JsonNode broken = ok(tomas.get("/api/reviews/" + round + "/effect")).get("broken");
      assertThat(broken).hasSize(1);
      assertThat(broken.toString())
          .as("he may read neither its key nor its name")
          .doesNotContain("odile-leads")
          .doesNotContain("Odile leads loans");
      Caller.Answer blocked = tomas.send("POST", "/api/reviews/" + round + "/finish", "");
      assertThat(blocked.status()).isEqualTo(409);
      assertThat(blocked.body()).contains("An expectation would break");
      String key = broken.get(0).get("key").stringValue();
      JsonNode answered =
          ok(
              tomas.send(
                  "POST",
                  "/api/reviews/" + round + "/answers",
                  "{\"expectation\": \"" + key + "\", \"said\": \"It moves to Fernwick\"}"));
      assertThat(answered.at("/broken/0/answer").stringValue()).isEqualTo("It moves to Fernwick");
      ok(tomas.send("POST", "/api/reviews/" + round + "/finish", ""));
    } finally {
      model.change(List.of(new Change.Removed(leads)));
    }
  }

  @Test
  void whatGrantsTheSameGoesWithItAndIsNotToldByKey() {
    Assignment hers =
        model.engine().catalogue().assignments().get(new AssignmentKey("petra-signs"));
    assertThat(hers).isNotNull();
    Assignment twice = Altered.with(hers, "key", "petra-signs-twice");
    model.change(List.of(new Change.Added(twice)));
    try {
      long round = made();
      int number = number(round, "assignment petra-signs");
      Caller tomas = as("tomas.brandt");
      JsonNode it = ok(tomas.get(item(round, number)));
      assertThat(it.get("takes").longValue()).isZero();
      assertThat(it.get("stays").longValue()).isPositive();
      List<String> marks = new ArrayList<>();
      it.get("with").forEach(each -> marks.add("\"" + each.get("id").stringValue() + "\""));
      assertThat(marks).isNotEmpty().noneMatch(mark -> mark.contains("petra"));
      assertThat(
              decide(tomas, round, number, "\"verdict\": \"remove\", \"with\": [\"nothing\"]")
                  .status())
          .isEqualTo(400);
      ok(decide(tomas, round, number, "\"verdict\": \"remove\", \"with\": " + marks));
      JsonNode effect = ok(tomas.get("/api/reviews/" + round + "/effect"));
      assertThat(effect.get("lost").longValue())
          .as("the membership gives more than that")
          .isGreaterThanOrEqualTo(it.get("stays").longValue());
    } finally {
      model.change(List.of(new Change.Removed(twice)));
    }
  }

  @Test
  void anItemIsReducedAsItOffers() {
    long round = made();
    int number = number(round, ODILES_LOANS);
    Caller tomas = as("tomas.brandt");
    JsonNode ways = ok(tomas.get(item(round, number))).get("reductions");
    assertThat(ways).anyMatch(it -> it.get("key").stringValue().equals("end"));
    assertThat(
            decide(tomas, round, number, "\"verdict\": \"reduce\", \"reduction\": \"end\"")
                .status())
        .isEqualTo(400);
    String until = clock.instant().plus(Duration.ofDays(30)).toString();
    ok(
        decide(
            tomas,
            round,
            number,
            "\"verdict\": \"reduce\", \"reduction\": \"end\", \"until\": \"" + until + "\""));
    JsonNode effect = ok(tomas.get("/api/reviews/" + round + "/effect"));
    assertThat(effect.get("changes").intValue()).isEqualTo(1);
    assertThat(effect.get("lost").longValue()).isZero();
  }

  @Test
  void whatChangedMeanwhileIsShownAgainAndWhatIsGoneIsClosed() {
    long round = made();
    int number = number(round, ODILES_LOANS);
    Caller tomas = as("tomas.brandt");
    String seen = facts(tomas, round, number);
    Assignment was =
        model.engine().catalogue().assignments().get(new AssignmentKey("odile-loans-f"));
    assertThat(was).isNotNull();
    Assignment is = was.in(Assignment.Mode.JUST_IN_TIME);
    model.change(List.of(new Change.Altered(was, is)));
    try {
      Caller.Answer late =
          tomas.send(
              "PUT",
              item(round, number) + "/decision",
              "{\"verdict\": \"remove\", \"facts\": \"" + seen + "\"}");
      assertThat(late.status()).isEqualTo(409);
      watch.run(clock.instant());
      assertThat(find(mine("tomas.brandt", round), ODILES_LOANS).get("changed").booleanValue())
          .isTrue();
      model.change(List.of(new Change.Removed(is)));
      watch.run(clock.instant());
      assertThat(mine("tomas.brandt", round).toString())
          .as("what was to be read for a decision ends with the item")
          .contains("\"gone\"")
          .doesNotContain(ODILES_LOANS);
    } finally {
      Assignment now =
          model.engine().catalogue().assignments().get(new AssignmentKey("odile-loans-f"));
      model.change(List.of(now == null ? new Change.Added(was) : new Change.Altered(now, was)));
    }
  }

  @Test
  void anItemIsPassedOnAndTheNextReviewerDecides() {
    long round = made();
    int number = number(round, ODILES_LOANS);
    Caller tomas = as("tomas.brandt");
    assertThat(
            tomas
                .send("POST", item(round, number) + "/pass", "{\"to\": \"odile.farrow\"}")
                .status())
        .isIn(400, 404);
    ok(
        tomas.send(
            "POST",
            item(round, number) + "/pass",
            "{\"to\": \"anselm.reeve\", \"said\": \"Not mine to judge\"}"));
    assertThat(tomas.get(item(round, number)).status()).isEqualTo(404);
    Caller anselm = as("anselm.reeve");
    JsonNode it = ok(anselm.get(item(round, number)));
    assertThat(it.at("/history/0/said").stringValue()).isEqualTo("Not mine to judge");
    ok(decide(anselm, round, number, "\"verdict\": \"remove\""));
  }

  @Test
  void thePersonIsAskedAndAnswersFromTheirPage() {
    long round = made();
    int number = number(round, ODILES_LOANS);
    Caller tomas = as("tomas.brandt");
    ok(tomas.send("POST", item(round, number) + "/ask", "{\"said\": \"Do you still cover?\"}"));
    Caller odile = as("odile.farrow");
    JsonNode asked = ok(odile.get("/api/reviews")).get("asked");
    assertThat(asked).hasSize(1);
    assertThat(asked.at("/0/question").stringValue()).isEqualTo("Do you still cover?");
    assertThat(
            as("noor.haddad")
                .send("POST", item(round, number) + "/answer", "{\"said\": \"Me too\"}")
                .status())
        .isEqualTo(404);
    ok(odile.send("POST", item(round, number) + "/answer", "{\"said\": \"No, since spring\"}"));
    assertThat(ok(as("odile.farrow").get("/api/reviews")).get("asked")).isEmpty();
    assertThat(ok(as("tomas.brandt").get(item(round, number))).at("/history/1/said").stringValue())
        .isEqualTo("No, since spring");
  }

  @Test
  void aDeputyDecidesForWhoIsAwayButNotAboutThemselves() {
    long round = made();
    int before = mine("tomas.brandt", round).size();
    Caller tomas = as("tomas.brandt");
    String window =
        "\"begins\": \""
            + clock.instant().minus(Duration.ofHours(1))
            + "\", \"ends\": \""
            + clock.instant().plus(Duration.ofDays(7))
            + "\"";
    assertThat(
            tomas
                .send("PUT", "/api/reviews/deputy", "{\"who\": \"tomas.brandt\", " + window + "}")
                .status())
        .isEqualTo(404);
    database.update(
        "insert into review_deputy values ('tomas.brandt', 'odile.farrow', now() - interval '9 days',"
            + " now() + interval '400 days')");
    watch.run(clock.instant());
    List<JsonNode> hers = new ArrayList<>();
    mine("odile.farrow", round).forEach(hers::add);
    assertThat(hers)
        .isNotEmpty()
        .allMatch(it -> !it.get("about").stringValue().equals("odile.farrow"))
        .allMatch(it -> it.get("insteadOf").stringValue().equals("Tomas Brandt"));
    assertThat(hers.size() + mine("tomas.brandt", round).size()).isEqualTo(before);
  }

  @Test
  void stagesFollowOneAnother() {
    String two =
        "[{\"order\": [\"manager\", \"person:anselm.reeve\"]},"
            + " {\"order\": [\"person:ilse.varga\"]}]";
    long round = made(order(two, ""));
    int number = number(round, ODILES_LOANS);
    Caller tomas = as("tomas.brandt");
    ok(decide(tomas, round, number, "\"verdict\": \"remove\""));
    JsonNode effect = ok(tomas.get("/api/reviews/" + round + "/effect"));
    for (JsonNode it : effect.get("broken")) {
      ok(
          tomas.send(
              "POST",
              "/api/reviews/" + round + "/answers",
              "{\"expectation\": \"" + it.get("key").stringValue() + "\", \"said\": \"Yes\"}"));
    }
    ok(tomas.send("POST", "/api/reviews/" + round + "/finish", ""));
    JsonNode next = ok(as("ilse.varga").get(item(round, number)));
    assertThat(next.at("/row/stage").intValue()).isEqualTo(1);
    assertThat(next.get("history")).anyMatch(it -> it.get("act").stringValue().equals("counted"));
  }

  @Test
  void controlsAreWrongAndWhoKeepsThemIsSeen() {
    long round =
        made(
            order(MANAGERS, "")
                .replace("\"controls\": 0", "\"controls\": 2")
                .replace("\"risk\": \"high\"", "\"risk\": \"low\""));
    var controls =
        database.queryForList(
            "select number, decider from review_item where round = ? and control", round);
    assertThat(controls).isNotEmpty();
    int number = Integer.parseInt(String.valueOf(controls.getFirst().get("number")));
    Caller reviewer = as(String.valueOf(controls.getFirst().get("decider")));
    JsonNode it = ok(reviewer.get(item(round, number)));
    assertThat(it.get("takes").longValue()).isPositive();
    assertThat(it.toString()).doesNotContain("control");
    ok(decide(reviewer, round, number, "\"verdict\": \"keep\", \"reason\": \"Looks right\""));
    watch.run(clock.instant());
    JsonNode detail = ok(as("anselm.reeve").get("/api/reviews/" + round));
    assertThat(detail.get("reviewers")).anyMatch(each -> each.get("controlsKept").intValue() == 1);
    assertThat(ok(reviewer.get("/api/reviews/" + round + "/effect")).get("changes").intValue())
        .isZero();
  }

  @Test
  void onlyItemsOfLowRiskThatAreAlikeAreKeptAtOnce() {
    long round = made();
    JsonNode mine = mine("tomas.brandt", round);
    Caller.Answer risky =
        as("tomas.brandt")
            .send(
                "POST",
                "/api/reviews/" + round + "/keep",
                "{\"items\": [" + mine.get(0).get("number") + "]}");
    assertThat(risky.status()).isEqualTo(400);
    assertThat(risky.body()).contains("one by one");
  }

  @Test
  void ofManyWhoDecideAtOnceNothingIsLost() throws Exception {
    long round = made();
    int number = number(round, ODILES_LOANS);
    String facts = facts(as("tomas.brandt"), round, number);
    List<Callable<Integer>> calls = new ArrayList<>();
    for (int i = 0; i < 12; i++) {
      Caller tomas = as("tomas.brandt");
      String reason = "Reason " + i;
      calls.add(() ->
          tomas
              .send(
                  "PUT",
                  item(round, number) + "/decision",
                  "{\"verdict\": \"keep\", \"facts\": \""
                      + facts
                      + "\", \"reason\": \""
                      + reason
                      + "\"}")
              .status());
    }
    try (ExecutorService threads = Executors.newFixedThreadPool(6)) {
      for (Future<Integer> it : threads.invokeAll(calls)) {
        assertThat(it.get()).isEqualTo(200);
      }
    }
    assertThat(
            database.queryForObject(
                "select count(*) from review_act where round = ? and act = 'decided'",
                Integer.class,
                round))
        .isEqualTo(12);
    String last =
        database.queryForObject(
            "select said from review_act where round = ? order by number desc limit 1",
            String.class,
            round);
    assertThat(find(mine("tomas.brandt", round), ODILES_LOANS).get("reason").stringValue())
        .isEqualTo(last);
  }
}
