package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.openqa.selenium.Keys;

/** Every page for everyone: no violation that axe finds, by keyboard alone, and at 390 px. */
@ExtendWith(Running.class)
class AccessibilityJourneyTest {

  private static final Path AXE = Path.of("../web/node_modules/axe-core/axe.min.js");

  /** Each page and something that it shows once it is loaded. */
  private static final List<List<String>> PAGES =
      List.of(
          List.of("/people?in=quillhaven", "Ada Renn"),
          List.of("/people/noor.haddad", "What can Noor Haddad do"),
          List.of("/people/noor.haddad?tab=holds", "Assignments that apply to Noor Haddad"),
          List.of("/people/noor.haddad?tab=sign-in", "Open sessions"),
          List.of("/people/noor.haddad?tab=history", "record"),
          List.of("/groups", "New group in"),
          List.of("/groups/q-registrars", "Assignments of this group"),
          List.of("/rights/roles", "Registrar"),
          List.of("/rights/roles/registrar", "active holders"),
          List.of("/rights/compare?one=cataloguer&other=records-cataloguer", "Both"),
          List.of("/rights/sets", "New permission set"),
          List.of("/rights/permissions?type=loan", "Approve loans"),
          List.of("/rights/bridges", "New bridge"),
          List.of("/rights/tidy", "Also combine assignments"),
          List.of("/places?at=l-van-1", "full: set here"),
          List.of("/places?at=account:quillhaven", "Show numbers"),
          List.of("/checks", "holds both sides"),
          List.of("/checks?harm=no-effect", "denies the gate"),
          List.of("/checks?part=expectations", "New expectation"),
          List.of("/checks?part=systems", "Comparisons"),
          List.of("/people/petra.lowe/copy", "Colleagues with the same"),
          List.of("/people/petra.lowe/move", "New colleagues"),
          List.of("/people?in=quillhaven&by=unit", "Registry"),
          List.of("/watch-rules/new", "It would"),
          List.of("/personnel/new", "follow this list"),
          List.of("/people/petra.lowe/lend", "answers for them there"),
          List.of("/people/tomas.brandt/part", "What they answer for"),
          List.of("/reviews", "Waiting for you"),
          List.of("/reviews/new", "items of"),
          List.of("/reviews/rules/new", "somebody moves"),
          List.of("/reviews/2/round", "Noemi Mbeki"),
          List.of("/reviews/1/report", "signed by Anselm Reeve"),
          List.of("/reviews/reviewed?person=odile.farrow", "decisions about"),
          List.of("/trail", "Export all as CSV"),
          List.of("/drafts", "Your drafts"),
          List.of("/ask?who=petra.lowe&in=quillhaven&factor=1", "Collection rooms"),
          List.of("/ask/who?permission=loan.draft&on=q-loan-101", "Export the whole answer"),
          List.of(
              "/ask/why?who=tess.aldergate&permission=vehicle.view&on=l-van-2",
              "Export the whole answer"),
          List.of("/ask/escalation", "Choose a permission"),
          List.of("/ask/differ?one=noor.haddad&other=tess.aldergate", "Only Noor Haddad"),
          List.of("/side", "Choose two people"),
          List.of("/you", "What you can do"),
          List.of("/you/reviews", "While you are away"),
          List.of("/you/notices", "How notices come"),
          List.of("/you/work", "Long work"),
          List.of("/settings", "Approval"));

  @AfterEach
  void atFullWidthInLight(Browser browser) {
    browser.resize(1280, 800);
    browser.script("localStorage.setItem('mandala.scheme', 'light')");
  }

  private static void load(Browser browser, List<String> page) {
    browser.open(page.getFirst());
    browser.read(page.getLast());
  }

  /** {@return the violations that axe finds on the page as it is, each with its first place} */
  private static String violations(Browser browser) throws IOException {
    browser.script(Files.readString(AXE));
    return String.valueOf(
        browser.wait(
            """
            const done = arguments[arguments.length - 1];
            axe.run(document, { resultTypes: ['violations'] }).then(
              (found) => done(found.violations
                .map((it) => it.id + ' at ' + it.nodes[0].target.join(' ')).join('; ')),
              (error) => done(String(error)));
            """));
  }

  @ParameterizedTest
  @ValueSource(strings = {"light", "dark"})
  void noPageHasAViolation(String scheme, Browser browser) throws IOException {
    browser.beSignedInAs("Ilse Varga");
    browser.script("localStorage.setItem('mandala.scheme', arguments[0])", scheme);
    for (List<String> page : PAGES) {
      load(browser, page);
      assertThat(violations(browser)).as("%s in %s", page.getFirst(), scheme).isEmpty();
    }
  }

  @Test
  void aQuestionIsAskedAndGrantedByKeyboardAlone(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
    browser.open("/ask/why?who=tess.aldergate&factor=1");
    browser.read("Choose a permission and a resource");
    browser.press(Keys.TAB);
    browser.read("Skip to content");
    browser.focus("button[data-field='What']");
    browser.press(Keys.ENTER);
    browser.see("input[role=combobox][aria-label='Permission']");
    browser.press("view vans");
    browser.see(".ant-select-item-option-active[title='View vans']");
    browser.press(Keys.ENTER);
    browser.see("button[data-field='What'][aria-label='What: vehicle.view']");
    browser.focus("button[data-field='Where']");
    browser.press(Keys.ENTER);
    browser.see("input[role=combobox][aria-label='Place']");
    browser.press("blue van");
    browser.see(".ant-select-item-option-active[title='The blue van']");
    browser.press(Keys.ENTER);
    browser.read("View vans · on The blue van · not granted");
    browser.press("/");
    browser.press("noor");
    browser.read("Loans officer");
    browser.press(Keys.ENTER);
    browser.read("What can Noor Haddad");
    browser.blur();
    browser.press("?");
    browser.read("Which question do I ask?");
    browser.press(Keys.ESCAPE);
    browser.readNoMore("Which question do I ask?");
  }

  @Test
  void everythingIsInReachOnANarrowScreen(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
    browser.resize(390, 800);
    for (List<String> page : PAGES) {
      load(browser, page);
      assertThat(browser.script("return document.documentElement.scrollWidth"))
          .as("width of " + page.getFirst())
          .isEqualTo(390L);
    }
    browser.open("/rights/roles");
    browser.see("ul[aria-label='Roles'] a");
    browser.open("/places?at=l-van-1");
    browser.see(".ant-select[aria-label='Permission'], input[aria-label='Permission']");
    browser.open("/people?in=quillhaven");
    browser.choose("ul[aria-label='People'] a", "Ada Renn");
    browser.read("What can Ada Renn");
    browser.see("[data-draft]");
  }
}
