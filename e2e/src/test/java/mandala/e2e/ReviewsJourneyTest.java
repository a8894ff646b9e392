package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.LiveModel;
import mandala.server.review.EventWatch;
import mandala.server.review.ReviewSetup;
import mandala.server.review.RoundWatch;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.openqa.selenium.Keys;
import org.springframework.jdbc.core.JdbcTemplate;

/** A round is made from its sentence and decided: by managers, on a phone, by who comes next. */
@ExtendWith(Running.class)
class ReviewsJourneyTest {

  private @Nullable AccessModel before;

  @BeforeEach
  void freshCodes(Application application) {
    before = application.model();
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
  }

  /** Other journeys find the model as it was. */
  @AfterEach
  void restore(Application application, Browser browser) {
    browser.resize(1280, 800);
    application.restore(before);
  }

  /** A round of its own, so that other tests decide other items. */
  private static long round(Application application, String title, String risk, int controls) {
    return round(application, title, risk, controls, "manager");
  }

  private static long round(
      Application application, String title, String risk, int controls, String decider) {
    return round(application, title, risk, controls, decider, "anselm.reeve");
  }

  private static long round(
      Application application,
      String title,
      String risk,
      int controls,
      String decider,
      String owner) {
    Instant now = Instant.now();
    return application
        .part(ReviewSetup.class)
        .begin(
            new ReviewSetup.Plan(
                title,
                List.of("people", "guests"),
                List.of("quillhaven", "fernwick"),
                risk,
                List.of(decider, "person:anselm.reeve"),
                now,
                now.plus(Duration.ofDays(14)),
                controls,
                owner),
            application.part(LiveModel.class).state(),
            now);
  }

  private static void answerForWhatBreaks(Browser browser) {
    browser.read("to finish.");
    for (int i = 0; i < 5 && browser.text().contains("would break"); i++) {
      if (browser.all("input[aria-label^='Why ']").isEmpty()) {
        break;
      }
      browser.type("input[aria-label^='Why ']", "Fernwick takes it over");
      browser.choose("button", "Answer for it");
      browser.read("You answer for it");
    }
  }

  @Test
  void theQuarterlyRoundIsMadeFromItsSentence(Browser browser) {
    browser.signInAs("Anselm Reeve");
    browser.open("/reviews");
    browser.read("Waiting for you");
    browser.choose("button", "New review");
    browser.read("all access to high and critical permissions");
    browser.read("items of");
    browser.read("have no reviewer");
    browser.click("button[data-field='Decided by']");
    browser.type(".ant-popover:not(.ant-popover-hidden) input[role=combobox]", "Anselm");
    browser.choose(".ant-select-item-option", "Anselm Reeve");
    browser.read("else Anselm Reeve");
    browser.choose("button", "Begin review");
    browser.choose("button", "Open the review");
    browser.read("run by Anselm Reeve");
    browser.read("Noemi Mbeki");
    browser.choose("button", "Cancel review");
    browser.type("textarea[aria-label='Reason']", "The wrong quarter");
    browser.choose(".ant-modal button", "Cancel review");
    browser.read("Cancelled: The wrong quarter");
  }

  @Test
  void aManagerDecidesByKeyAndFinishes(Application application, Browser browser) {
    long round = round(application, "Managers decide", "high", 0);
    browser.signInAs("Tomas Brandt");
    browser.open("/reviews");
    browser.choose("a", "Managers decide");
    browser.read("of 6 decisions left");
    browser.read("Recommended:");
    browser.read("2,299 rights");
    browser.press("3");
    browser.read("5 of 6 decisions left");
    browser.open("/reviews/" + round);
    browser.read("1 decision to finish");
    browser.read("1 person loses");
    answerForWhatBreaks(browser);
    browser.choose("button", "Finish 1 decision");
    browser.readNoMore("to finish.");
    browser.open("/reviews");
    browser.read("5 of 6 decisions left");
  }

  /** Its end passes, and the work of a minute is done. */
  private static void end(Application application, long round) {
    application
        .part(JdbcTemplate.class)
        .update("update review_round set ends = now() - interval '1 hour' where number = ?", round);
    application.part(RoundWatch.class).run(Instant.now());
  }

  @Test
  void aRoundIsCarriedOutClosedAndSignedAndAnAuditorFindsIt(
      Application application, Browser browser) {
    long round = round(application, "Until it is signed", "high", 0, "manager", "ilse.varga");
    browser.signInAs("Tomas Brandt");
    browser.open("/reviews/" + round);
    browser.read("of 6 decisions left");
    browser.read("Recommended:");
    browser.read("2,299 rights");
    browser.press("3");
    browser.read("5 of 6 decisions left");
    removeAlone(application, browser, round, "assignment odile-loans-f");
    browser.read("2 decisions to finish");
    answerForWhatBreaks(browser);
    browser.choose("button", "Finish 2 decisions");
    browser.readNoMore("to finish.");
    end(application, round);
    browser.signInAs("Ilse Varga");
    browser.open("/reviews/" + round + "/round");
    browser.read("2 in force");
    browser.read("closed");
    browser.choose("a", "Report");
    browser.read("not signed yet");
    browser.read("Loans lead on everything in Loans desk");
    browser.choose("button", "Use it");
    browser.choose("button", "Sign the result");
    browser.read("signed by Ilse Varga");
    browser.signInAs("Vera Lindqvist");
    browser.open("/reviews");
    browser.choose("a", "Was somebody reviewed?");
    browser.open("/reviews/reviewed?person=odile.farrow");
    browser.read("by");
    browser.read("In force");
    browser.read("Tomas Brandt");
    browser.choose("a", "Until it is signed");
    browser.read("signed by Ilse Varga");
  }

  private static void removeAlone(Application application, Browser browser, long round, String id) {
    Integer number =
        application
            .part(JdbcTemplate.class)
            .queryForObject(
                "select number from review_item where round = ? and id = ?",
                Integer.class,
                round,
                id);
    browser.open("/reviews/" + round + "?item=" + number);
    browser.read("Recommended:");
    browser.press("3");
    browser.read("Also remove");
    browser.click(".ant-modal .ant-checkbox-wrapper");
    browser.choose(".ant-modal button", "Remove");
    browser.readNoMore("Also remove");
  }

  @Test
  void aManagerDecidesOnThePhone(Application application, Browser browser) {
    long round = round(application, "On the phone", "high", 0);
    browser.signInAs("Tomas Brandt");
    browser.resize(390, 844);
    browser.open("/reviews/" + round);
    browser.read("6 of 6 decisions left");
    browser.read("Recommended:");
    assertThat(browser.script("return document.documentElement.scrollWidth <= innerWidth"))
        .isEqualTo(true);
    browser.choose("button", "Keep…");
    browser.type("textarea[aria-label='Reason']", "Needed until the loan is back");
    browser.choose(".ant-modal button", "Keep");
    browser.read("5 of 6 decisions left");
  }

  @Test
  void aRemovalThatAnotherRouteDefeatsTakesTheSetThatDoes(
      Application application, Browser browser) {
    LiveModel live = application.part(LiveModel.class);
    Assignment hers =
        Objects.requireNonNull(
            live.engine().catalogue().assignments().get(new AssignmentKey("petra-signs")));
    live.change(
        List.of(
            new Change.Added(
                new Assignment(
                    new AssignmentKey("petra-signs-twice"),
                    About.NONE,
                    new Subject.OfPrincipal(Principal.Kind.PERSON, new PrincipalKey("petra.lowe")),
                    hers.gives(),
                    hers.effect(),
                    hers.scope(),
                    hers.viewScope(),
                    hers.window(),
                    hers.mode(),
                    hers.crossesSeals()))));
    long round = round(application, "Defeated", "high", 0);
    int number = number(application, round, "assignment petra-signs");
    browser.signInAs("Tomas Brandt");
    browser.open("/reviews/" + round + "?item=" + number);
    browser.read("stay by something else");
    browser.choose("button", "Remove…");
    browser.read("Also remove");
    browser.choose(".ant-modal button", "Remove");
    browser.read("1 decision to finish");
    browser.read("1 person loses");
  }

  @Test
  void anItemIsPassedOnAndWhoKeepsAControlIsSeen(Application application, Browser browser) {
    long round = round(application, "With controls", "low", 2);
    JdbcTemplate database = application.part(JdbcTemplate.class);
    int control =
        Objects.requireNonNull(
            database.queryForObject(
                "select number from review_item where round = ? and control"
                    + " and about <> 'noemi.mbeki' order by number limit 1",
                Integer.class,
                round));
    // whoever was chosen, these two can sign in from the page
    database.update(
        "update review_item set decider = 'noemi.mbeki' where round = ? and number = ?",
        round,
        control);
    browser.signInAs("Noemi Mbeki");
    browser.open("/reviews/" + round + "?item=" + control);
    browser.read("Recommended:");
    browser.choose("button", "Keep…");
    browser.type("textarea[aria-label='Reason']", "Looks right");
    browser.choose(".ant-modal button", "Keep");
    browser.read("to finish.");
    browser.choose("button", "Pass on…");
    browser.type(".ant-modal input[role=combobox]", "Anselm");
    browser.choose(".ant-select-item-option", "Anselm Reeve");
    browser.choose(".ant-modal button", "Pass on");
    browser.gone(".ant-modal-wrap:not([style*='none'])");
    browser.signInAs("Anselm Reeve");
    browser.open("/reviews/" + round + "/round");
    browser.read("1 of 1");
    browser.read("look closer");
    assertThat(
            database.queryForObject(
                "select count(*) from review_act where round = ? and act = 'passed'",
                Integer.class,
                round))
        .isEqualTo(1);
  }

  private static int number(Application application, long round, String id) {
    return Objects.requireNonNull(
        application
            .part(JdbcTemplate.class)
            .queryForObject(
                "select number from review_item where round = ? and id = ?",
                Integer.class,
                round,
                id));
  }

  private static void removeWithWhatGrantsTheSame(Browser browser) {
    browser.press("3");
    browser.read("Also remove");
    browser.choose(".ant-modal button", "Remove");
  }

  @Test
  void theOwnerOfAPlaceDecidesWhatIsGrantedThere(Application application, Browser browser) {
    LiveModel live = application.part(LiveModel.class);
    Assignment hers =
        Objects.requireNonNull(
            live.engine().catalogue().assignments().get(new AssignmentKey("odile-loans-f")));
    Resource place =
        Objects.requireNonNull(
            live.engine()
                .catalogue()
                .resources()
                .get(
                    hers.scope().stream()
                        .flatMap(it -> it.terms().stream())
                        .filter(Term.Tree.class::isInstance)
                        .map(it -> ((Term.Tree) it).resource())
                        .findFirst()
                        .orElseThrow()));
    live.change(List.of(new Change.Altered(place, owned(place, "noemi.mbeki"))));
    long round = round(application, "What is granted here", "high", 0, "place-owner");
    int number = number(application, round, "assignment odile-loans-f");
    browser.signInAs("Noemi Mbeki");
    browser.open("/reviews");
    browser.choose("a", "What is granted here");
    browser.read("Odile Farrow");
    browser.open("/reviews/" + round + "?item=" + number);
    browser.read("Recommended:");
    removeWithWhatGrantsTheSame(browser);
    browser.read("1 decision to finish");
    browser.read("1 person loses");
    answerForWhatBreaks(browser);
    browser.choose("button", "Finish 1 decision");
    browser.readNoMore("to finish.");
  }

  private static Resource owned(Resource it, String owner) {
    return new Resource(
        it.key(),
        it.about(),
        it.type(),
        it.account(),
        it.parent(),
        new PrincipalKey(owner),
        it.unit(),
        it.labels(),
        it.sealed());
  }

  @Test
  void aDeputyDecidesWhileAManagerIsAway(Application application, Browser browser) {
    browser.signInAs("Tomas Brandt");
    browser.open("/you/reviews");
    browser.read("While you are away");
    browser.type("input[role=combobox]", "Anselm");
    browser.choose(".ant-select-item-option", "Anselm Reeve");
    LocalDate today = LocalDate.now(ZoneOffset.UTC);
    browser.type("input[aria-label='From']", today.minusDays(1).toString());
    browser.press(Keys.ENTER);
    browser.type("input[aria-label='Until']", today.plusDays(9).toString());
    browser.press(Keys.ENTER);
    browser.choose("button", "Name deputy");
    browser.read("Anselm Reeve decides for you");
    long round = round(application, "While he is away", "high", 0);
    int number = number(application, round, "assignment odile-loans-f");
    browser.signInAs("Anselm Reeve");
    browser.open("/reviews/" + round + "?item=" + number);
    browser.read("for Tomas Brandt");
    browser.read("Recommended:");
    removeWithWhatGrantsTheSame(browser);
    browser.read("1 decision to finish");
    browser.signInAs("Tomas Brandt");
    browser.open("/you/reviews");
    browser.choose("button", "End deputy");
    browser.readNoMore("decides for you");
  }

  @Test
  void ofTwoReviewersOnOneItemTheOneWhoseItIsDecides(Application application, Browser browser) {
    long round = round(application, "Two at one item", "high", 0);
    int number = number(application, round, "assignment odile-loans-f");
    browser.signInAs("Tomas Brandt");
    browser.open("/reviews/" + round + "?item=" + number);
    browser.read("Recommended:");
    application
        .part(JdbcTemplate.class)
        .update(
            "update review_item set decider = 'noemi.mbeki' where round = ? and number = ?",
            round,
            number);
    removeWithWhatGrantsTheSame(browser);
    browser.read("no longer yours: somebody else decides it");
    browser.signInAs("Noemi Mbeki");
    browser.open("/reviews/" + round + "?item=" + number);
    browser.read("Recommended:");
    removeWithWhatGrantsTheSame(browser);
    browser.read("1 decision to finish");
    assertThat(
            application
                .part(JdbcTemplate.class)
                .queryForList(
                    "select decided_by from review_item where round = ? and number = ?",
                    String.class,
                    round,
                    number))
        .containsExactly("noemi.mbeki");
  }

  @Test
  void whoMovesIsReviewedByARule(Application application, Browser browser) {
    browser.signInAs("Anselm Reeve");
    browser.open("/reviews");
    browser.choose("button", "New rule");
    browser.read("When somebody moves");
    browser.type("input[aria-label='Title']", "Who moves at Quillhaven");
    browser.choose("button", "Make rule");
    browser.read("Who moves at Quillhaven");
    LiveModel live = application.part(LiveModel.class);
    Principal odile =
        Objects.requireNonNull(
            live.engine().catalogue().principals().get(new PrincipalKey("odile.farrow")));
    live.change(List.of(new Change.Altered(odile, titled(odile, "Archivist"))));
    application.part(EventWatch.class).run(Instant.now());
    browser.reload();
    browser.read("Who moves at Quillhaven, revision");
    browser.signInAs("Tomas Brandt");
    browser.open("/reviews");
    browser.choose("a", "revision " + live.state().revision());
    browser.read("Odile Farrow");
    settle(application, browser);
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
    browser.signInAs("Anselm Reeve");
    browser.open("/reviews");
    browser.choose("a", "Who moves at Quillhaven, revision");
    browser.read("made because somebody moved");
    browser.open("/reviews");
    browser.read("When somebody moves in Quillhaven");
    browser.script(
        "[...document.querySelectorAll('a')].find(it => it.textContent === 'Who moves at"
            + " Quillhaven').click()");
    browser.choose("button", "End rule");
    browser.choose(".ant-popconfirm button", "End rule");
    browser.read("Waiting for you");
  }

  /** What is decided about the one who moved takes effect once somebody who may takes it over. */
  private static void settle(Application application, Browser browser) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    long round =
        Objects.requireNonNull(
            database.queryForObject("select max(number) from review_round", Long.class));
    browser.read("Recommended:");
    browser.press("3");
    browser.read("1 decision to finish");
    answerForWhatBreaks(browser);
    browser.choose("button", "Finish 1 decision");
    browser.readNoMore("to finish.");
    application.part(RoundWatch.class).run(Instant.now());
    browser.signInAs("Ilse Varga");
    browser.open("/reviews/" + round + "/round");
    browser.read("It waits: Its owner's access does not cover");
    browser.choose("button", "Take over");
    browser.read("run by Ilse Varga");
    application.part(RoundWatch.class).run(Instant.now());
    browser.reload();
    browser.read("1 in force");
    database.update(
        "update review_round set ends = now() - interval '4 days' where number = ?", round);
    application.part(RoundWatch.class).run(Instant.now());
    browser.reload();
    browser.choose("a", "Report");
    browser.read("the round's rule");
    browser.read("kept by the rule of the round");
  }

  @Test
  void whatASecondPersonDeclinesIsDecidedAgain(Application application, Browser browser) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    database.update("delete from approval_policy");
    database.update(
        "insert into approval_policy (account, people, reason, reference)"
            + " values ('larkmoor', 0, false, false)");
    try {
      long round = round(application, "Declined", "high", 0, "manager", "ilse.varga");
      browser.signInAs("Tomas Brandt");
      removeAlone(application, browser, round, "assignment odile-loans-f");
      answerForWhatBreaks(browser);
      browser.choose("button", "Finish 1 decision");
      browser.readNoMore("to finish.");
      database.update(
          "update review_round set what = replace(what, 'at-end', 'at-once') where number = ?",
          round);
      application.part(RoundWatch.class).run(Instant.now());
      String draft =
          database.queryForObject(
              "select draft from review_item where round = ? and outcome = 'waiting'",
              String.class,
              round);
      browser.signInAs("Marten Holloway");
      browser.open("/drafts/" + draft);
      browser.choose("section[aria-label='Apply'] button", "Decline");
      browser.type(".ant-modal textarea", "The show runs until May");
      browser.choose(".ant-modal button", "Decline");
      browser.read("The show runs until May");
      application.part(RoundWatch.class).run(Instant.now());
      database.update("update credential set totp_last_step = -1");
      browser.signInAs("Tomas Brandt");
      browser.open("/reviews/" + round);
      browser.read("6 of 6 decisions left");
      browser.open(
          "/reviews/"
              + round
              + "?item="
              + database.queryForObject(
                  "select number from review_item where round = ? and returned = 1",
                  Integer.class,
                  round));
      browser.read("This came back: A second person declined it: “The show runs until May”");
    } finally {
      database.update("delete from approval_policy");
    }
  }

  private static Principal titled(Principal it, String title) {
    Map<String, String> attributes = new HashMap<>(it.attributes());
    attributes.put("title", title);
    return Rewritten.facts(it, it.unit(), it.manager(), attributes);
  }
}
