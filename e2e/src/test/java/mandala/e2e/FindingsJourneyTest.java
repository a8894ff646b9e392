package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.time.Duration;
import java.util.List;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Gives;
import mandala.core.model.Supplied;
import mandala.core.model.key.AssignmentKey;
import mandala.server.model.LiveModel;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.openqa.selenium.Keys;
import org.openqa.selenium.TimeoutException;
import org.springframework.jdbc.core.JdbcTemplate;

/**
 * The most exposed are found and one of them is trimmed; a finding is accepted and comes back when
 * it worsens; twin roles are merged while nobody gains or loses anything.
 */
@ExtendWith(Running.class)
class FindingsJourneyTest {

  /** Detectors and figures follow a change within minutes. */
  private static final Duration LOOKED_AGAIN = Duration.ofMinutes(6);

  private @Nullable AccessModel before;

  @BeforeEach
  void freshCodes(Application application, Browser browser) {
    before = application.model();
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
    browser.signInAs("Ilse Varga");
  }

  /** Other journeys look at the demo's troubles: they find them as they were. */
  @AfterEach
  void restore(Application application) {
    application.restore(before);
  }

  private static long exposure(Browser browser) {
    browser.read("Exposure over time");
    return Long.parseLong(
        browser.text().replaceAll("(?s).*by risk: now ([\\d,]+).*", "$1").replace(",", ""));
  }

  @Test
  void theTwentyAreFoundOneIsTrimmedAndTheExposureFalls(Browser browser) {
    browser.open("/places?at=account%3Aquillhaven");
    long exposed = exposure(browser);
    browser.open("/checks?part=exposure");
    browser.read("Most unused exposure");
    assertThat(browser.all("section[aria-label='Exposure'] tbody tr a"))
        .hasSize(20)
        .doesNotHaveDuplicates();
    browser.see("section[aria-label='Exposure'] svg");
    browser.open("/people/odile.farrow?tab=use");
    browser.read("Not used in");
    browser.choose("button", "Trim access");
    browser.choose("button", "Look for what can go");
    browser.read("Safe because");
    browser.see("[role=slider][aria-label='How far to trim']").sendKeys(Keys.END);
    browser.choose("button", "to a new draft");
    browser.choose("a", "Open the draft");
    browser.read("Trim the access of Odile Farrow");
    browser.applyDraft("ilse.varga");
    await()
        .atMost(LOOKED_AGAIN)
        .ignoreExceptionsInstanceOf(TimeoutException.class)
        .pollInterval(Duration.ofSeconds(5))
        .untilAsserted(() -> {
          browser.open("/places?at=account%3Aquillhaven");
          assertThat(exposure(browser)).isLessThan(exposed);
        });
    browser.choose("section button, main button", "Show numbers");
    assertThat(browser.all("main table tbody tr")).isNotEmpty();
  }

  @Test
  void anAcceptedFindingComesBackWhenItWorsens(Browser browser, Application application) {
    String page = "/checks?kind=broad-scope&text=strongroom";
    String said = "covers everything and crosses seals";
    await()
        .atMost(LOOKED_AGAIN)
        .ignoreExceptionsInstanceOf(TimeoutException.class)
        .untilAsserted(() -> {
          browser.open(page);
          browser.read(said);
        });
    browser.click("main tbody .ant-checkbox");
    browser.choose("button", "Accept until a date");
    browser.type("input[aria-label='Accept until']", "2099-06-30");
    browser.press(Keys.ENTER);
    browser.type("textarea[aria-label='Reason']", "Until the rooms are dry");
    browser.choose(".ant-modal button", "Accept");
    browser.readNoMore(said);
    browser.open(page + "&state=accepted");
    browser.read(said);
    browser.read("Accepted");
    LiveModel live = application.part(LiveModel.class);
    Assignment broad =
        Objects.requireNonNull(
            live.engine()
                .catalogue()
                .assignments()
                .get(new AssignmentKey("strongroom-for-the-flood")));
    live.change(
        List.of(
            new Change.Altered(broad, Rewritten.gives(broad, new Gives.OfRole(Supplied.OWNER)))));
    await()
        .atMost(LOOKED_AGAIN)
        .ignoreExceptionsInstanceOf(TimeoutException.class)
        .pollInterval(Duration.ofSeconds(5))
        .untilAsserted(() -> {
          browser.open("/checks?kind=broad-scope");
          browser.read(said);
          assertThat(browser.text()).contains("Worse than accepted");
        });
  }

  @Test
  void theTwinsAreTidiedAndNobodyGainsOrLoses(Browser browser) {
    browser.open("/rights/roles");
    browser.choose("[role=tab]", "Tidy");
    browser.choose("button", "Look for proposals");
    browser.read("Role “Cataloguer” gives exactly the same.");
    browser.read("nobody gains or loses anything");
    browser.choose("button", "Add all");
    browser.choose("a", "Open the draft");
    browser.read("The role Records cataloguer is removed");
    browser.read("No one gains or loses a right.");
    browser.choose("button", "Discard draft");
  }
}
