package mandala.server.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.List;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Expectation;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.Altered;
import mandala.server.Caller;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;

/** Decisions take effect by themselves, or come back with the reason; then the round closes. */
class ReviewEffectTest extends CarriedCase {

  // ---- in force ---------------------------------------------------------------------------------

  @Test
  void aRemovalIsInForceAtOnceByARevisionThatNamesTheRound() {
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, "\"verdict\": \"remove\", \"reason\": \"She left loans\"");
    assertThat(isThere()).as("nothing before its owner's work is done").isTrue();
    run();
    assertThat(isThere()).isFalse();
    long revision = model.state().revision();
    assertThat(row(round, number).get("outcome").stringValue()).isEqualTo("in-force");
    assertThat(row(round, number).get("revision").longValue()).isEqualTo(revision);
    JsonNode said = ok(as("ilse.varga").get("/api/revisions/" + revision));
    assertThat(said.toString())
        .contains("Review “Quarterly”")
        .contains("Decided in review " + round + ": remove item " + number);
    assertThat(effects(round).get("inForce").intValue()).isEqualTo(1);
    run();
    assertThat(model.state().revision()).as("once").isEqualTo(revision);
  }

  @Test
  void aReductionIsInForce() {
    long round = made("ilse.varga", "at-once", "keep");
    String until = clock.instant().plus(Duration.ofDays(30)).toString();
    decided(round, "\"verdict\": \"reduce\", \"reduction\": \"end\", \"until\": \"" + until + "\"");
    run();
    Assignment it =
        Objects.requireNonNull(model.engine().catalogue().assignments().get(ODILES_KEY));
    assertThat(it.window().until()).isNotNull();
    assertThat(effects(round).get("inForce").intValue()).isEqualTo(1);
  }

  @ParameterizedTest
  @CsvSource({"daily, 0, 1", "at-end, 13, 1"})
  void decisionsWaitForTheirTime(String carried, int still, int then) {
    long round = made("ilse.varga", carried, "keep");
    run(); // a day's work is done where there is none
    clock.move(Duration.ofDays(still));
    decided(round, "\"verdict\": \"remove\"");
    if (carried.equals("at-end")) {
      run();
      assertThat(isThere()).isTrue();
    }
    later(then);
    assertThat(isThere()).isFalse();
  }

  @Test
  void aServerThatDiedInBetweenDoesNothingTwice() {
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    run();
    long revision = model.state().revision();
    // as if it had died after the draft was applied
    database.update(
        "update review_item set outcome = 'waiting', revision = null, settled_at = null"
            + " where outcome = 'in-force'");
    run();
    assertThat(model.state().revision()).isEqualTo(revision);
    assertThat(row(round, number).get("revision").longValue()).isEqualTo(revision);
  }

  @Test
  void aDecisionIsTakenBackBeforeItIsInForce() {
    long round = made("ilse.varga", "at-end", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    Caller tomas = as("tomas.brandt");
    ok(tomas.send("DELETE", item(round, number) + "/effect", ""));
    assertThat(row(round, number).get("state").stringValue()).isEqualTo("open");
    assertThat(as("tomas.brandt").send("DELETE", item(round, number) + "/effect", "").status())
        .as("once")
        .isEqualTo(409);
    assertThat(as("ilse.varga").send("DELETE", item(round, number) + "/effect", "").status())
        .as("only whoever decided")
        .isEqualTo(404);
    later(15);
    assertThat(isThere()).isTrue();
  }

  @Test
  void whatIsInForceIsTakenBackByARevision() {
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    run();
    long removed = model.state().revision();
    ok(as("tomas.brandt").send("DELETE", item(round, number) + "/effect", ""));
    assertThat(isThere()).isTrue();
    assertThat(model.state().revision()).isEqualTo(removed + 1);
    assertThat(row(round, number).get("state").stringValue()).isEqualTo("open");
    assertThat(row(round, number).has("revision")).isFalse();
    assertThat(acts(round, number)).endsWith("in-force", "taken-back");
  }

  @Test
  void whatCannotBeRevertedIsNotTakenBack() {
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, PETRAS, "\"verdict\": \"remove\"");
    run();
    assertThat(isThere(PETRAS_KEY)).isFalse();
    everyChangeNeedsAnother();
    Caller.Answer waits = as("tomas.brandt").send("DELETE", item(round, number) + "/effect", "");
    assertThat(waits.status()).isEqualTo(409);
    assertThat(waits.body()).contains("A second person must approve it first");
    assertThat(isThere(PETRAS_KEY)).isFalse();
    assertThat(row(round, number).get("outcome").stringValue()).isEqualTo("in-force");
    assertThat(as("tomas.brandt").send("DELETE", item(round, number) + "/effect", "").status())
        .isEqualTo(409);
    String draft =
        Objects.requireNonNull(
            database.queryForObject(
                "select id from draft where state = 'aside'", String.class)); // one, however often
    Caller marten = as("marten.holloway");
    ok(
        marten.send(
            "POST",
            "/api/drafts/" + draft + "/approval",
            "{\"content\": \"" + content(ok(marten.get("/api/drafts/" + draft))) + "\"}"));
    ok(as("tomas.brandt").send("DELETE", item(round, number) + "/effect", ""));
    assertThat(isThere(PETRAS_KEY)).isTrue();
    assertThat(row(round, number).get("state").stringValue()).isEqualTo("open");
  }

  @Test
  void whatIsGrantedAgainAfterItTookEffectComesBack() {
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    run();
    List<Change> done = history.changes(before, model.state().revision()).orElseThrow();
    model.change(done.reversed().stream().map(Change::inverse).toList());
    later(15);
    assertThat(state(round)).isEqualTo("open");
    assertThat(row(round, number).get("remark").stringValue()).contains("granted again");
  }

  // ---- what comes back --------------------------------------------------------------------------

  @Test
  void aRemovalThatAnotherRouteDefeatsComesBack() {
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    Assignment hers =
        Objects.requireNonNull(model.engine().catalogue().assignments().get(ODILES_KEY));
    model.change(List.of(new Change.Added(Altered.with(hers, "key", "odile-loans-again"))));
    run();
    assertThat(isThere()).isTrue();
    JsonNode row = row(round, number);
    assertThat(row.get("state").stringValue()).isEqualTo("open");
    assertThat(row.get("remark").stringValue()).isEqualTo(CarryPlan.DEFEATED);
    assertThat(database.queryForList("select said from notice where kind = 'review-returned'"))
        .singleElement()
        .asString()
        .contains("1 decision of yours in “Quarterly” can't take effect");
    // decided again with the other route in sight, it is carried out
    decided(round, "\"verdict\": \"remove\"");
    run();
    assertThat(isThere()).isFalse();
  }

  @Test
  void whatChangedAfterItWasDecidedComesBack() {
    long round = made("ilse.varga", "at-end", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    Assignment hers =
        Objects.requireNonNull(model.engine().catalogue().assignments().get(ODILES_KEY));
    model.change(List.of(new Change.Altered(hers, Altered.with(hers, "mode", "just-in-time"))));
    later(15);
    assertThat(row(round, number).get("remark").stringValue()).isEqualTo(CarryPlan.CHANGED);
    assertThat(state(round)).isEqualTo("open");
  }

  @Test
  void whatIsGoneAlreadyIsInForce() {
    long round = made("ilse.varga", "at-end", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    Assignment hers =
        Objects.requireNonNull(model.engine().catalogue().assignments().get(ODILES_KEY));
    model.change(List.of(new Change.Removed(hers)));
    later(15);
    JsonNode row = row(round, number);
    assertThat(row.get("outcome").stringValue()).isEqualTo("in-force");
    assertThat(row.has("revision")).as("no revision of the round's").isFalse();
    assertThat(state(round)).isEqualTo("closed");
  }

  /** Whatever concerns more than nobody asks for a second person. */
  private void everyChangeNeedsAnother() {
    database.update(
        "insert into approval_policy (account, people, reason, reference) values"
            + " ('larkmoor', 0, false, false), ('quillhaven', 0, false, false),"
            + " ('fernwick', 0, false, false)");
  }

  private String draft(long round) {
    return effects(round).at("/drafts/0/id").stringValue();
  }

  private static String content(JsonNode draft) {
    return draft.get("content").stringValue();
  }

  @Test
  void aSecondPersonIsAskedAndApproves() {
    everyChangeNeedsAnother();
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, PETRAS, "\"verdict\": \"remove\"");
    run();
    assertThat(isThere(PETRAS_KEY)).isTrue();
    assertThat(row(round, number).get("outcome").stringValue()).isEqualTo("waiting");
    String draft = draft(round);
    String asked =
        database.queryForObject(
            "select approver from draft_request where draft = ? order by 1 limit 1",
            String.class,
            draft);
    Caller approver = as(Objects.requireNonNull(asked));
    String path = "/api/drafts/" + draft;
    ok(
        approver.send(
            "POST",
            path + "/approval",
            "{\"content\": \"" + content(ok(approver.get(path))) + "\"}"));
    run();
    assertThat(isThere(PETRAS_KEY)).isFalse();
    assertThat(row(round, number).get("outcome").stringValue()).isEqualTo("in-force");
  }

  @Test
  void whatASecondPersonDeclinesComesBack() {
    everyChangeNeedsAnother();
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, PETRAS, "\"verdict\": \"remove\"");
    run();
    String path = "/api/drafts/" + draft(round);
    Caller marten = as("marten.holloway");
    ok(
        marten.send(
            "POST",
            path + "/decline",
            "{\"content\": \"%s\", \"reason\": \"The show runs until May\"}"
                .formatted(content(ok(marten.get(path))))));
    run();
    JsonNode row = row(round, number);
    assertThat(row.get("state").stringValue()).isEqualTo("open");
    assertThat(row.get("remark").stringValue())
        .isEqualTo("A second person declined it: “The show runs until May”");
    assertThat(effects(round).get("drafts")).isEmpty();
    assertThat(isThere(PETRAS_KEY)).isTrue();
    assertThat(acts(round, number)).containsSubsequence("decided", "counted", "returned");
  }

  @Test
  void whatItsOwnerDiscardsComesBack() {
    everyChangeNeedsAnother();
    long round = made("ilse.varga", "at-once", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    run();
    ok(as("ilse.varga").send("PATCH", "/api/drafts/" + draft(round), "{\"state\": \"discarded\"}"));
    run();
    assertThat(row(round, number).get("remark").stringValue()).isEqualTo("Its draft was discarded");
  }

  @Test
  void aCancelledRoundLeavesNoDraft() {
    everyChangeNeedsAnother();
    long round = made("ilse.varga", "at-once", "keep");
    decided(round, PETRAS, "\"verdict\": \"remove\"");
    run();
    String draft = draft(round);
    ok(as("ilse.varga").send("POST", "/api/reviews/" + round + "/cancel", "{\"reason\": \"No\"}"));
    assertThat(database.queryForObject("select state from draft where id = ?", String.class, draft))
        .isEqualTo("discarded");
    run();
    assertThat(isThere(PETRAS_KEY)).isTrue();
  }

  // ---- whose rights -----------------------------------------------------------------------------

  @Test
  void withoutItsOwnersRightsARoundWaitsUntilSomebodyTakesItOver() {
    long round = made("anselm.reeve", "at-once", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    run();
    run();
    assertThat(isThere()).isTrue();
    JsonNode waits = ok(as("anselm.reeve").get("/api/reviews/" + round)).get("round");
    assertThat(waits.get("heldUp").stringValue()).contains("owner's access does not cover");
    assertThat(database.queryForList("select said from notice where kind = 'review-held-up'"))
        .as("once")
        .hasSize(1);
    assertThat(as("tomas.brandt").send("POST", "/api/reviews/" + round + "/owner", "").status())
        .isEqualTo(404);
    ok(as("ilse.varga").send("POST", "/api/reviews/" + round + "/owner", ""));
    run();
    assertThat(isThere()).isFalse();
    assertThat(row(round, number).get("outcome").stringValue()).isEqualTo("in-force");
    JsonNode goes = ok(as("anselm.reeve").get("/api/reviews/" + round)).get("round");
    assertThat(goes.has("heldUp")).isFalse();
  }

  @Test
  void anOwnerWhoIsSuspendedHoldsTheRoundUp() {
    long round = made("ilse.varga", "at-end", "keep");
    decided(round, "\"verdict\": \"remove\"");
    Principal ilse =
        Objects.requireNonNull(
            model.engine().catalogue().principals().get(new PrincipalKey("ilse.varga")));
    Principal suspended = Altered.with(ilse, "status", "suspended");
    model.change(List.of(new Change.Altered(ilse, suspended)));
    later(15);
    assertThat(isThere()).isTrue();
    model.change(List.of(new Change.Altered(suspended, ilse)));
    run();
    assertThat(isThere()).as("it goes on when they are back").isFalse();
  }

  // ---- the end ----------------------------------------------------------------------------------

  @Test
  void whatNobodyDecidedIsKeptAndTheRoundCloses() {
    long round = made("ilse.varga", "at-end", "keep");
    later(40); // nobody was there for a month
    assertThat(state(round)).isEqualTo("closed");
    JsonNode effects = effects(round);
    assertThat(effects.get("left").intValue()).isZero();
    assertThat(effects.get("before").longValue()).isPositive();
    assertThat(effects.get("after").longValue()).isPositive();
    assertThat(
            database.queryForList(
                "select distinct reason from review_item where round = ?", String.class, round))
        .containsExactly("Nobody decided: kept by the rule of the round");
    assertThat(model.state().revision()).isEqualTo(before);
    assertThat(
            database.queryForObject(
                "select count(*) from notice where kind = 'review-ended'", Long.class))
        .isEqualTo(1);
  }

  @Test
  void whatNobodyDecidedIsRemovedAfterAGraceTime() {
    long round = made("ilse.varga", order("at-end", "remove", 0, false, 5));
    int number = number(round, ODILES);
    later(15);
    assertThat(state(round)).isEqualTo("open");
    assertThat(effects(round).get("late").booleanValue()).isTrue();
    assertThat(effects(round).get("unsettled")).isNotEmpty();
    Caller tomas = as("tomas.brandt");
    ok(decide(tomas, round, number, "\"verdict\": \"keep\", \"reason\": \"She needs it\""));
    finish(tomas, round);
    later(5);
    run();
    assertThat(isThere()).as("it was decided in the grace time").isTrue();
    assertThat(effects(round).get("inForce").intValue()).isPositive();
    assertThat(model.state().revision()).isGreaterThan(before);
    for (JsonNode it : effects(round).get("unsettled")) {
      ok(
          as("ilse.varga")
              .send(
                  "POST",
                  item(round, it.get("number").intValue()) + "/effect/answer",
                  "{\"said\": \"Looked at by hand\"}"));
    }
    run();
    assertThat(state(round)).isEqualTo("closed");
    assertThat(effects(round).get("after").longValue())
        .isLessThan(effects(round).get("before").longValue());
  }

  @Test
  void whatNobodyDecidedIsSuspendedWhereItCanEnd() {
    long round = made("ilse.varga", "at-end", "suspend");
    later(15);
    run();
    Assignment it =
        Objects.requireNonNull(model.engine().catalogue().assignments().get(ODILES_KEY));
    assertThat(it.window().until()).isBeforeOrEqualTo(clock.instant());
    assertThat(
            database.queryForList(
                "select distinct reason from review_item where round = ? order by 1",
                String.class,
                round))
        .contains(
            "Nobody decided: suspended by the rule of the round",
            "Nobody decided: kept, for it can't be suspended");
  }

  @Test
  void reviewersAreRemindedOnceAndTheirManagersDecideAfterTheEnd() {
    long round = made("ilse.varga", order("at-end", "keep", 3, true, 7));
    database.update("delete from notice");
    later(10);
    assertThat(database.queryForList("select 1 from notice where kind = 'review-waits'")).isEmpty();
    later(1);
    later(1);
    assertThat(
            database.queryForList(
                "select said from notice where person = 'tomas.brandt'"
                    + " and kind = 'review-waits'"))
        .singleElement()
        .asString()
        .contains("still wait for your decision")
        .contains("Finish before it ends");
    later(3);
    List<String> escalated =
        database.queryForList(
            "select distinct decider from review_item where round = ? and chosen_by = 'escalated'",
            String.class,
            round);
    assertThat(escalated).isNotEmpty().doesNotContain("tomas.brandt");
    JsonNode theirs = mine(escalated.getFirst(), round);
    assertThat(theirs).isNotEmpty();
    Caller manager = as(escalated.getFirst());
    for (JsonNode it : theirs) {
      if (it.get("state").stringValue().equals("open")) {
        ok(
            decide(
                manager,
                round,
                it.get("number").intValue(),
                "\"verdict\": \"keep\", \"reason\": \"Looked at\""));
      }
    }
    finish(manager, round);
    later(8);
    assertThat(state(round)).isEqualTo("closed");
  }

  @Test
  void unfinishedDecisionsCountAtTheEnd() {
    long round = made("ilse.varga", "at-end", "keep");
    int number = number(round, ODILES);
    Caller tomas = as("tomas.brandt");
    ok(decide(tomas, round, number, "\"verdict\": \"remove\""));
    assertThat(ok(tomas.get("/api/reviews/" + round + "/effect")).get("broken")).isEmpty();
    later(15);
    assertThat(isThere()).isFalse();
    assertThat(state(round)).isEqualTo("closed");
    assertThat(acts(round, number)).containsSubsequence("decided", "counted", "in-force");
  }

  @Test
  void unfinishedDecisionsThatWouldBreakAnExpectationComeBack() {
    Assignment hers =
        Objects.requireNonNull(model.engine().catalogue().assignments().get(ODILES_KEY));
    model.change(
        List.of(
            new Change.Added(
                new Expectation(
                    new ExpectationKey("odile-leads"),
                    About.named("Odile leads loans"),
                    new AccountKey("fernwick"),
                    Expectation.Form.CAN,
                    List.of(hers.subject()),
                    List.of(new PermissionKey("loan.approve")),
                    hers.scope(),
                    null,
                    null))));
    long round = made("ilse.varga", "at-end", "remove");
    int number = number(round, ODILES);
    ok(decide(as("tomas.brandt"), round, number, "\"verdict\": \"remove\""));
    later(15);
    assertThat(isThere()).as("no rule decides what came back").isTrue();
    assertThat(row(round, number).get("remark").stringValue())
        .isEqualTo("An expectation would break, and nobody answers for it");
    assertThat(state(round)).isEqualTo("open");
  }

  @Test
  void whatComesBackDoesNotWaitForTheOwner() {
    long round = made("anselm.reeve", "at-end", "keep");
    int number = number(round, ODILES);
    int guest = number(round, "guest fernwick odile.farrow");
    Caller tomas = as("tomas.brandt");
    ok(decide(tomas, round, number, "\"verdict\": \"remove\""));
    ok(decide(tomas, round, guest, "\"verdict\": \"remove\""));
    finish(tomas, round);
    Assignment hers =
        Objects.requireNonNull(model.engine().catalogue().assignments().get(ODILES_KEY));
    model.change(List.of(new Change.Altered(hers, Altered.with(hers, "mode", "just-in-time"))));
    later(15);
    assertThat(
            ok(as("anselm.reeve").get("/api/reviews/" + round)).at("/round/heldUp").stringValue())
        .contains("owner's access does not cover");
    assertThat(row(round, number).get("remark").stringValue()).isEqualTo(CarryPlan.CHANGED);
    assertThat(row(round, guest).get("state").stringValue()).isEqualTo("done");
  }

  @Test
  void nobodyAnswersForWhatTakesEffectByItself() {
    long round = made("ilse.varga", "at-end", "keep");
    int number = decided(round, "\"verdict\": \"remove\"");
    assertThat(
            as("ilse.varga")
                .send("POST", item(round, number) + "/effect/answer", "{\"said\": \"It stays\"}")
                .status())
        .as("before the end")
        .isEqualTo(409);
    later(15);
    assertThat(isThere()).isFalse();
  }

  @Test
  void whatCameBackWaitsForAPersonAndIsAnsweredFor() {
    long round = made("ilse.varga", "at-end", "remove");
    int number = decided(round, "\"verdict\": \"remove\"");
    everyChangeNeedsAnother();
    later(15);
    run();
    Caller ilse = as("ilse.varga");
    assertThat(
            ilse.send("POST", item(round, number) + "/effect/answer", "{\"said\": \" \"}").status())
        .isEqualTo(400);
    assertThat(
            as("tomas.brandt")
                .send("POST", item(round, number) + "/effect/answer", "{\"said\": \"No\"}")
                .status())
        .isEqualTo(404);
    while (!effects(round).get("unsettled").isEmpty()) {
      int next = effects(round).at("/unsettled/0/number").intValue();
      ok(
          as("ilse.varga")
              .send(
                  "POST",
                  item(round, next) + "/effect/answer",
                  "{\"said\": \"The board looks at it\"}"));
    }
    run();
    assertThat(state(round)).isEqualTo("closed");
    assertThat(row(round, number).get("outcome").stringValue()).isEqualTo("answered");
    assertThat(row(round, number).get("remark").stringValue()).isEqualTo("The board looks at it");
    assertThat(isThere()).isTrue();
    assertThat(
            as("ilse.varga")
                .send("POST", item(round, number) + "/effect/answer", "{\"said\": \"Yes\"}")
                .status())
        .as("the round is over")
        .isEqualTo(409);
  }

  @Test
  void badRulesSayWhatIsPossible() {
    Caller ilse = as("ilse.varga");
    for (String wrong :
        List.of(
            order("hourly", "keep", 0, false, 0),
            order("at-end", "forget", 0, false, 0),
            order("at-end", "keep", -1, false, 0),
            order("at-end", "keep", 0, false, 400))) {
      Caller.Answer answer = ilse.send("POST", "/api/reviews/preview", wrong);
      assertThat(answer.status()).as(wrong).isEqualTo(400);
      assertThat(answer.json().get("detail").stringValue()).isNotBlank();
    }
  }
}
