package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.openqa.selenium.Keys;
import org.springframework.jdbc.core.JdbcTemplate;

/** The first ten minutes of each of five roles, and the path that the README describes. */
@ExtendWith(Running.class)
class FirstMinutesJourneyTest {

  @BeforeEach
  void asAtFirst(Application application) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    database.update("update credential set totp_last_step = -1");
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
    database.update("delete from saved_view");
  }

  /** “The main job in five minutes”, step by step. */
  @Test
  void theReadmesFiveMinutesAreTrue(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.choose("nav[aria-label='Main'] a", "People");
    browser.click("button[data-field='Account']");
    browser.choose(".ant-select-item-option", "Quillhaven Sea Museum");
    browser.click("button[data-field='Job']");
    browser.pick("Registrar", "Registrar");
    browser.read("with Registrar");
    browser.see(".ant-table-row a");
    browser.script("document.querySelector('.ant-table-tbody-virtual-holder').scrollTop = 350");
    browser.choose(".ant-table-row a", "Odile Farrow");
    browser.read("What can Odile Farrow do in Quillhaven Sea Museum");
    browser.see("[role=tab]");
    browser.click("main section[aria-label='Access by place'] button[data-permission]");
    browser.see("section[aria-label='Routes']");
    browser.choose("main a", "Compare");
    browser.click("button[data-field='The other']");
    browser.choose(".ant-select-item-option", "What their colleagues have in common");
    browser.read("Only Odile Farrow:");
    browser.read("Purchasing");
    browser.choose("[role=tab]", "What can they do");
    browser.read("What can Odile Farrow do");
    browser.focus("main figure [aria-label^='Purchasing']");
    browser.press(Keys.ENTER);
    browser.read("Only Purchasing");
    browser.click("button[data-field='When']");
    browser.type("input[placeholder^='2026']", "2026-02-01T09:00:00Z");
    browser.choose("button", "Use this time");
    browser.read("on 1 Feb 2026, 09:00 UTC");
    browser.choose("button", "Add a condition");
    assertThat(browser.address()).contains("who=odile.farrow").contains("at=2026-02-01T09");
  }

  @Test
  void aSecurityAdministratorFindsSortsSavesAndSelects(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/people?in=quillhaven");
    browser.choose(".ant-table-column-sorters", "Last seen");
    browser.choose("button", "Views");
    browser.choose(".ant-popover button", "Save this view");
    browser.type(".ant-modal input", "Seen long ago");
    browser.press(Keys.ENTER);
    browser.read("View saved");
    browser.open("/people");
    browser.choose("button", "Views");
    browser.choose(".ant-popover a", "Seen long ago");
    browser.see("th[aria-sort='ascending']");
    assertThat(browser.address()).contains("people.sort=seen").contains("in=quillhaven");
    browser.choose("button", "Paste a list");
    browser.type(".ant-modal textarea", "Odile Farrow, Nobody At All");
    browser.choose(".ant-modal button", "Select");
    browser.read("1 person selected");
    browser.read("No one you can see is called Nobody At All");
  }

  @Test
  void aDelegatedAdministratorAssignsWhereTheyMay(Browser browser) {
    browser.signInAs("Dario Penn");
    browser.choose("nav[aria-label='Main'] a", "People");
    browser.read("Fernwick Gallery");
    assertThat(browser.text()).doesNotContain("Quillhaven Sea Museum");
    browser.assign("ada.finch", "Registrar", "Fernwick Gallery");
    browser.click("[data-draft]");
    browser.read("Ada Finch gets Registrar: everything in Fernwick Gallery");
    assertThat(browser.text()).doesNotContain("Your access does not cover all of these changes");
    browser.open("/settings");
    browser.readNoMore("Import and replace");
  }

  @Test
  void anAuditorReadsAndChangesNothing(Browser browser) {
    browser.signInAs("Vera Lindqvist");
    browser.choose("nav[aria-label='Main'] a", "Trail");
    browser.read("records");
    browser.choose("nav[aria-label='Main'] a", "Checks");
    browser.read("holds both sides");
    browser.choose("nav[aria-label='Main'] a", "People");
    browser.choose(".ant-table-row a", "");
    browser.see("[role=tab]");
    assertThat(browser.all("main header button")).isEmpty();
  }

  @Test
  void anAccessReviewerFindsWhoHoldsTooMuch(Browser browser) {
    browser.signInAs("Anselm Reeve");
    browser.choose("nav[aria-label='Main'] a", "Checks");
    browser.read("holds both sides");
    browser.open("/ask?who=odile.farrow&in=quillhaven&factor=1");
    browser.read("What can Odile Farrow do");
    browser.choose("main label", "Show names");
    browser.read("View rooms");
    assertThat(browser.address()).contains("names=1");
    browser.open("/checks?kind=exclusion");
    browser.choose("main tbody button", "Drafts and approves");
    browser.choose("button", "Why, and how to remove it");
    browser.choose("button", "How to remove this access");
    browser.read("You can’t change access yourself");
    browser.click("button[aria-label^='Propose:']");
    browser.read("· 1 change");
    browser.gone("section[aria-label='Routes']"); // what it settles is no finding any more
    browser.click("[data-draft]");
    browser.read("propose the draft to somebody who can apply it");
    browser.choose("section[aria-label='Propose'] .ant-select", "");
    browser.choose(".ant-select-item-option", "Ilse Varga");
    browser.choose("section[aria-label='Propose'] button", "Propose");
    browser.read("by Ilse Varga");
    browser.gone("section[aria-label='Propose']");
  }

  @Test
  void aPlainPersonSeesTheirOwnAccessAndWhomToAsk(Browser browser) {
    browser.signInAs("Noor Haddad");
    browser.open("/you");
    browser.read("Loans lead");
    browser.open("/people");
    browser.read("You can't see other people");
    browser.read("Ask a security administrator");
    browser.type("#search", "what can I do");
    browser.read("What can Noor Haddad do?");
    browser.press(Keys.ENTER);
    browser.read("What can Noor Haddad do");
  }
}
