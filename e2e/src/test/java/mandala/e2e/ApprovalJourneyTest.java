package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.openqa.selenium.Keys;
import org.springframework.jdbc.core.JdbcTemplate;

/** Drafts between people: two at once, and one sent, declined, changed, approved and applied. */
@ExtendWith(Running.class)
class ApprovalJourneyTest {

  private static final String APPLY = "section[aria-label='Apply'] ";

  @BeforeEach
  void withoutDrafts(Application application) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    database.update("update credential set totp_last_step = -1");
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
  }

  @Test
  void aDraftIsSentDeclinedChangedApprovedAndApplied(Browser browser, Application application) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    browser.signInAs("Ilse Varga");
    browser.assign("tess.aldergate", "Security administrator", "Fernwick Gallery");
    browser.click("[data-draft]");
    browser.read("A second person must approve this draft");
    browser.type("textarea[aria-label='Reason']", "Ilse is on leave");
    browser.type("input[aria-label='Reference']", "LK-204");
    browser.press(Keys.ENTER);
    browser.click("input[aria-label='Who can approve it']");
    browser.choose(".ant-select-item-option", "Marten Holloway");
    browser.press(Keys.ESCAPE);
    browser.choose(APPLY + "button", "Send for approval");
    browser.read("Sent to Marten Holloway today");
    final String page = browser.address();

    browser.signInAs("Marten Holloway");
    browser.read("to approve");
    browser.open("/drafts");
    browser.read("sent to you today");
    browser.open(page);
    browser.read("Ilse is on leave");
    browser.choose(APPLY + "button", "Decline");
    browser.type(".ant-modal textarea", "Not in the gallery");
    browser.choose(".ant-modal button", "Decline");
    browser.read("Marten Holloway declined it today: Not in the gallery");

    database.update("update credential set totp_last_step = -1");
    browser.signInAs("Ilse Varga");
    browser.open(page);
    browser.read("Marten Holloway declined it today: Not in the gallery");
    browser.click("[aria-label^='Remove from draft']");
    browser.read("This draft is empty");
    browser.assign("tess.aldergate", "Security administrator", "Quillhaven Sea Museum");
    browser.open(page);
    browser.read("declined an earlier version");
    browser.choose(APPLY + "button", "Send again");
    browser.read("Sent to Marten Holloway today");

    database.update("update credential set totp_last_step = -1");
    browser.signInAs("Marten Holloway");
    browser.open(page);
    browser.choose(APPLY + "button", "Approve this draft");
    browser.read("Marten Holloway approved it as it is now");

    database.update("update credential set totp_last_step = -1");
    browser.signInAs("Ilse Varga");
    browser.open(page);
    browser.read("Marten Holloway approved it as it is now");
    browser.choose(APPLY + "button", "Use it");
    browser.click(APPLY + "button[type=submit]");
    browser.read("Reason: Ilse is on leave");
    browser.read("Reference: LK-204");
    browser.read("Approved by Marten Holloway");
  }

  @Test
  void twoDraftsAreOpenAtOnceAndADiscardedOneComesBack(Browser browser) {
    browser.signInAs("Ilse Varga");
    join(browser, "q-registrars", "Tess Aldergate");
    browser.read("Tess Aldergate joins Registrars · 1 change");
    browser.click("button[aria-label='Choose a draft']");
    browser.choose(".ant-dropdown-menu-item", "New draft");
    browser.read("This draft is empty");
    join(browser, "f-registrars", "Noor Haddad");
    browser.read("Noor Haddad joins");
    browser.click("button[aria-label='Choose a draft']");
    browser.choose(".ant-dropdown-menu-item", "Tess Aldergate joins Registrars");
    browser.read("Tess Aldergate joins Registrars · 1 change");
    browser.click("[data-draft]");
    browser.choose("main header button", "Discard draft");
    browser.read("Draft discarded");
    browser.choose(".ant-notification button", "Undo");
    browser.read("to revision");
    assertThat(browser.text()).contains("Tess Aldergate joins Registrars");
    browser.open("/drafts");
    browser.see("button[aria-label^='Make active: Noor Haddad joins']");
  }

  private static void join(Browser browser, String group, String person) {
    browser.open("/groups/" + group);
    browser.click("button[data-field='Members']");
    browser.pick(person, person);
    browser.gone(".ant-popover:not(.ant-popover-hidden)");
  }
}
