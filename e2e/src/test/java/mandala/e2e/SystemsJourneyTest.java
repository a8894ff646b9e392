package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Objects;
import mandala.core.model.AccessModel;
import mandala.demo.Larkmoor;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.api.io.TempDir;
import org.openqa.selenium.Keys;
import org.springframework.jdbc.core.JdbcTemplate;

/**
 * What the loans desk's own system holds is compared with the model, and differences are settled.
 */
@ExtendWith(Running.class)
class SystemsJourneyTest {

  private static final String PAGE = "/checks?part=systems";

  private @Nullable AccessModel before;

  @BeforeEach
  void freshCodes(Application application, Browser browser) {
    before = application.model();
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
    browser.signInAs("Ilse Varga");
    browser.open(PAGE);
  }

  /** Other journeys look at the demo's troubles: they find them as they were. */
  @AfterEach
  void restore(Application application) {
    application.restore(before);
  }

  private static String sample(String name) throws IOException {
    try (InputStream in = Objects.requireNonNull(Larkmoor.class.getResourceAsStream(name), name)) {
      return new String(in.readAllBytes(), StandardCharsets.UTF_8);
    }
  }

  private static void select(Browser browser, String id) {
    browser.click("tr[data-row-key='" + id + "'] .ant-checkbox");
  }

  @Test
  void twoDifferencesBecomeADraftAndAreGoneAfterIt(Browser browser) {
    String extra = "Corin Bladen holds Open the loans desk";
    String missing = "Petra Lowe should hold Approve loans";
    browser.read(extra);
    browser.read(missing);
    select(browser, "extra corin.bladen desk.open");
    select(browser, "missing petra.lowe loan.approve");
    browser.read("2 differences selected");
    browser.choose("button", "Change the model in a new draft");
    browser.read("2 changes are in a new draft");
    browser.choose("a", "Open the draft");
    browser.read("Adopt from Loans desk at Quillhaven");
    browser.applyDraft("ilse.varga");
    browser.open(PAGE);
    browser.read("The model or the terms changed since.");
    browser.choose("button", "Compare again");
    browser.readNoMore(extra);
    browser.readNoMore(missing);
    browser.read("Samir Dalca should hold Approve loans");
    browser.open(PAGE + "&state=settled");
    browser.read(extra);
    browser.read("Compared again, by Ilse Varga");
  }

  @Test
  void tablesComeInAgainAndTermsCountAfterATrial(Browser browser, @TempDir Path files)
      throws IOException {
    Path held = files.resolve("held.csv");
    Files.writeString(held, sample("loans-desk-held.csv") + "x.newcomer,Clerk,Quillhaven\n");
    browser.read("First seen");
    browser.upload("section[aria-label=Systems] input[type=file]", held);
    browser.read("'x.newcomer'");
    select(browser, "unknown x.newcomer");
    browser.choose("button", "Accept until a date");
    browser.type("input[aria-label='Accept until']", "2099-06-30");
    browser.press(Keys.ENTER);
    browser.type("textarea[aria-label='Reason']", "Comes from the agency");
    browser.choose(".ant-modal button", "Accept");
    browser.readNoMore("'x.newcomer'");
    Files.writeString(
        held, sample("loans-desk-held.csv") + "x.newcomer,Clerk,Quillhaven\n".repeat(2));
    browser.upload("section[aria-label=Systems] input[type=file]", held);
    browser.read("More than accepted");

    Path terms = files.resolve("terms.csv");
    Files.writeString(terms, sample("loans-desk-terms.csv") + "entitlement,Boss,loan.approve,\n");
    browser.choose("button", "Terms");
    browser.upload("section[aria-label=Terms] > div input[type=file]", terms);
    browser.see("button[aria-label='Try version 2 on a sample']");
    assertThat(browser.all("button[aria-label='Put version 2 in force']")).isEmpty();
    browser.upload("section[aria-label=Terms] td input[type=file]", held);
    browser.read("Version 2 understands");
    browser.click("button[aria-label='Put version 2 in force']");
    browser.read("2 in force");
    browser.read("The model or the terms changed since.");
    browser.choose("button", "Compare again");
    browser.readNoMore("entitlement Boss");
    browser.read("Compared again, by Ilse Varga, terms version 2");
  }
}
