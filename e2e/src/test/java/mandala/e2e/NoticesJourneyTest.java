package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.jdbc.core.JdbcTemplate;

/** What reaches people without their looking: notices, mail, and long work that they left. */
@ExtendWith(Running.class)
class NoticesJourneyTest {

  private static final String APPLY = "section[aria-label='Apply'] ";

  @BeforeEach
  void withoutDrafts(Application application) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    database.update("update credential set totp_last_step = -1");
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
    database.update("delete from notice");
    database.update("delete from mail");
  }

  @AfterEach
  void letQueuesGoOn(Application application) {
    application.pauseQueues(false);
  }

  @Test
  void aDraftIsSentItsMailIsReadItIsApprovedAndTheNoticeIsRead(
      Browser browser, Application application) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    browser.signInAs("Ilse Varga");
    browser.assign("tess.aldergate", "Security administrator", "Fernwick Gallery");
    browser.click("[data-draft]");
    browser.read("A second person must approve this draft");
    browser.click("input[aria-label='Who can approve it']");
    browser.choose(".ant-select-item-option", "Marten Holloway");
    browser.press(org.openqa.selenium.Keys.ESCAPE);
    browser.choose(APPLY + "button", "Send for approval");
    browser.read("Sent to Marten Holloway today");

    browser.signInAs("Marten Holloway");
    browser.open("/settings");
    browser.read("goes to no one");
    browser.choose("section[aria-label='Mail'] button", "A draft waits for my approval");
    browser.read("Ilse Varga asks you to approve a draft");
    assertThat(browser.text()).contains("Hello Marten Holloway,", "/drafts/");
    browser.open("/trail");
    browser.click("button[aria-label='Notices: 1 unread']");
    browser.choose(".ant-popover a", "Ilse Varga asks you to approve a draft");
    browser.choose(APPLY + "button", "Approve this draft");
    browser.read("Marten Holloway approved it as it is now");

    database.update("update credential set totp_last_step = -1");
    browser.signInAs("Ilse Varga");
    browser.click("button[aria-label='Notices: 1 unread']");
    browser.choose(".ant-popover a", "Marten Holloway approved your draft");
    browser.read("Marten Holloway approved it as it is now");
    browser.see("button[aria-label='Notices']");
  }

  @Test
  void aLongExportIsLeftComeBackToAndCancelled(Browser browser, Application application) {
    application.pauseQueues(true); // as on a busy server
    browser.signInAs("Vera Lindqvist");
    browser.open("/trail");
    browser.choose("button", "Export all as CSV");
    browser.read("Waiting for its turn");
    browser.open("/people");
    browser.open("/you/work");
    browser.read("Trail as CSV");
    browser.read("Waiting for its turn");
    browser.click("button[aria-label='Cancel: Trail as CSV']");
    browser.read("Cancelled.");
    application.pauseQueues(false);
    browser.open("/trail");
    browser.choose("button", "Export all as CSV");
    browser.read("Download");
    browser.open("/you/work");
    browser.read("Download mandala-trail.csv");
  }
}
