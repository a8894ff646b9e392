package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.openqa.selenium.Keys;
import org.springframework.jdbc.core.JdbcTemplate;

/** A person from the button to the revision, and the smaller of two ways to take access away. */
@ExtendWith(Running.class)
class PersonJourneyTest {

  @Test
  void aNewPersonIsMadeShownAndApplied(Browser browser, Application application) {
    browser.signInAs("Ilse Varga");
    browser.open("/people?in=quillhaven");
    browser.choose("main button", "New person");
    browser.choose(".ant-modal button", "Add to draft");
    browser.read("Enter “Name”.");
    browser.type(".ant-modal input[type=text]", "Una Marrow");
    browser.press(Keys.ESCAPE);
    browser.read("Discard what you typed?");
    browser.choose(".ant-modal button", "Keep editing");
    browser.choose(".ant-modal button", "Add to draft");
    browser.read("added by the draft");
    assertThat(browser.address()).contains("/people/una");
    browser.read("This is what they can do once they are");
    browser.choose("[role=tab]", "Groups and assignments");
    browser.read("Assignments that apply to Una Marrow");
    browser.click("[data-draft]");
    application.part(JdbcTemplate.class).update("update credential set totp_last_step = -1");
    browser.choose("section[aria-label='Apply'] button", "Use it");
    browser.click("section[aria-label='Apply'] button[type=submit]");
    browser.read("Revert in a new draft");
    browser.open("/people?in=quillhaven&state=invited&text=marrow");
    browser.choose(".ant-table-row a", "Una Marrow");
    browser.choose("[role=tab]", "History");
    browser.read("Una Marrow is added to");
  }

  @Test
  void whatIsTypedIsKeptWhenThePageIsLeft(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/people?in=quillhaven");
    browser.choose("main button", "New person");
    browser.type(".ant-modal input[type=text]", "Una Marrow");
    browser.open("/trail");
    browser.read("record");
    browser.open("/people?in=quillhaven");
    browser.choose("main button", "New person");
    browser.read("What you typed before is here again.");
  }

  @Test
  void aGroupsAssignmentOffersToRemoveOnePersonOnly(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/people/anselm.reeve?tab=holds");
    browser.read("Assignments that apply to Anselm Reeve");
    browser.click("button[aria-label^='Remove: Security office']");
    browser.read("belongs to Security office, not to Anselm Reeve alone");
    browser.choose(".ant-modal button", "Remove Anselm Reeve from Security office");
    browser.read("· 1 change");
    browser.click("[data-draft]");
    browser.read("Anselm Reeve");
    browser.read("loses");
  }

  @Test
  void anAuditorSeesNoActionAndAReviewerLooksAround(Browser browser) {
    browser.signInAs("Vera Lindqvist");
    browser.open("/people/odile.farrow");
    browser.read("What can Odile Farrow do");
    assertThat(browser.all("main header button")).isEmpty();
    browser.choose("[role=tab]", "Sessions and sign-in");
    browser.read("You need “Manage people” on");
    browser.open("/groups/q-registrars");
    browser.read("Assignments of this group");
    assertThat(browser.all("main button")).doesNotContain("Assign", "Retire", "Add a member");
    browser.signInAs("Anselm Reeve");
    browser.open("/people/odile.farrow");
    browser.read("What can Odile Farrow do");
    assertThat(browser.all("main header button")).isEmpty();
    browser.choose("nav[aria-label='Main'] a", "Checks");
    browser.read("holds both sides");
  }

  @Test
  void theTabsOfAskCarryTheQuestionAlong(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/ask?who=noor.haddad&in=quillhaven&factor=1");
    browser.read("What can Noor Haddad do");
    browser.choose("[role=tab]", "How do they differ");
    browser.see("button[aria-label*='Noor Haddad']");
    browser.choose("[role=tab]", "Why, or why not");
    browser.see("button[aria-label*='Noor Haddad']");
    assertThat(browser.address()).contains("who=noor.haddad");
  }
}
