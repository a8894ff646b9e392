package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;
import static org.awaitility.Awaitility.await;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.ZoneOffset;
import mandala.core.model.AccessModel;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.Keys;
import org.openqa.selenium.WebElement;
import org.springframework.jdbc.core.JdbcTemplate;

/**
 * Use is brought in from a file; the registrar who moved is found to use nothing of what she kept,
 * is trimmed from her page, and her figure changes.
 */
@ExtendWith(Running.class)
class ExcessJourneyTest {

  private @Nullable AccessModel before;

  /** Other journeys look at the demo's troubles: they find them as they were. */
  @AfterEach
  void restore(Application application) {
    application.restore(before);
  }

  @BeforeEach
  void freshCodes(Application application) {
    before = application.model();
    JdbcTemplate database = application.part(JdbcTemplate.class);
    database.update("update credential set totp_last_step = -1");
    database.update("delete from use_source where key = 'journey'");
  }

  @Test
  void useIsBroughtInAndTheOneWhoMovedIsTrimmed(
      Browser browser, Application application, @TempDir Path folder) throws IOException {
    importsUse(browser, folder);
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
    browser.signInAs("Ilse Varga");
    browser.open("/people/odile.farrow?tab=use&days=90");
    browser.read("Not used in 90 days");
    browser.see("[data-share='unused']");
    long exposed = exposure(browser);
    browser.choose("button", "Trim access");
    browser.choose("button", "Look for what can go");
    browser.read("no longer a guest of Fernwick Gallery");
    browser.read("Safe because");
    browser.see("svg .recharts-line");
    WebElement slider = browser.see("[role=slider][aria-label='How far to trim']");
    String before = browser.see("ol[aria-label='Changes']").getText();
    slider.sendKeys(Keys.HOME);
    await()
        .untilAsserted(() ->
            assertThat(browser.see("ol[aria-label='Changes']").getText())
                .as("fewer changes")
                .hasSizeLessThan(before.length()));
    slider.sendKeys(Keys.END);
    browser.read("no longer a guest of Fernwick Gallery");
    browser.choose("button", "to a new draft");
    browser.choose("a", "Open the draft");
    browser.read("Trim the access of Odile Farrow");
    browser.applyDraft("ilse.varga");
    browser.open("/people/odile.farrow?tab=use&days=90");
    browser.read("Not used in 90 days");
    assertThat(exposure(browser)).isLessThan(exposed);
  }

  private static void importsUse(Browser browser, Path folder) throws IOException {
    browser.signInAs("Marten Holloway");
    browser.open("/settings");
    browser.choose("section[aria-label='Use of access'] button", "New source");
    browser.type("input[aria-label='Name']", "Journey");
    browser.click("input[aria-label='Account']");
    browser.choose(".ant-select-item-option", "Quillhaven Sea Museum");
    browser.choose(".ant-modal button", "Add source");
    browser.read("every permission");
    LocalDate today = LocalDate.now(ZoneOffset.UTC);
    Path records = folder.resolve("records.csv");
    Files.writeString(
        records,
        """
        principal,permission,resource,day
        noor.haddad,desk.open,q-loans-desk,%s
        nobody.known,desk.open,q-loans-desk,%s
        """
            .formatted(today.minusDays(2), today.minusDays(1)));
    browser.click("input[aria-label='Source']");
    browser.choose(".ant-select-item-option", "Journey");
    browser.upload("input[accept='.jsonl,.ndjson,.csv']", records);
    browser.choose("button", "Import records");
    browser.read("2 records came in");
    browser.read("1 record names someone or something you don't know");
  }

  /** What an account's people use is worked out, the worst first, with a way to each of them. */
  @Test
  void theMostExposedAreFoundAndTheirUseIsWorkedOut(Browser browser, Application application) {
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
    browser.signInAs("Ilse Varga");
    browser.open("/people?people.sort=-exposure");
    browser.read("Marten Holloway");
    browser.open("/places?at=account%3Aquillhaven");
    browser.choose("a", "What its people use");
    browser.read("Use of access: Quillhaven Sea Museum");
    browser.read("Unused exposure");
    browser.choose("a", "Rhea Lark");
    browser.read("Not used in 180 days");
  }

  /** The exposure that the head of the page tells. */
  private static long exposure(Browser browser) {
    String said = browser.see("a[href*='tab=use']").getText();
    return Long.parseLong(said.replaceAll("exposure ([\\d,]+), .*", "$1").replace(",", ""));
  }
}
