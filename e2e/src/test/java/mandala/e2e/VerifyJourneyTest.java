package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.springframework.jdbc.core.JdbcTemplate;

/** Access is verified: asked any way, seen with another's eyes, held to what must stay true. */
@ExtendWith(Running.class)
class VerifyJourneyTest {

  @BeforeEach
  void withoutDrafts(Application application) {
    JdbcTemplate database = application.part(JdbcTemplate.class);
    database.update("update credential set totp_last_step = -1");
    database.update("update draft set state = 'discarded' where state in ('open', 'aside')");
  }

  @AfterEach
  void withOnesOwnEyes(Browser browser) {
    browser.script("window.name = ''");
  }

  @Test
  void whoCanIsAskedByFieldsAndLeadsToWhy(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/ask/who");
    browser.read("Choose what: a permission");
    browser.click("button[data-field='What']");
    browser.choose(".ant-select-item-option", "do anything critical");
    browser.read("principals can");
    browser.open("/ask/who?permission=object.view&on=account:quillhaven");
    browser.read("does not apply there");
    browser.open("/checks?kind=exclusion");
    browser.read("Drafts and approves the same loan");
    browser.read("Arlo Yates");
  }

  @Test
  void whyNotBecomesADraftThatGivesIt(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/checks?kind=exclusion&text=lena");
    browser.choose("main tbody button", "Lena Wyndham holds both sides");
    browser.choose("button", "Why, and how to remove it");
    browser.read("allowed by");
    browser.choose("button", "How to remove this access");
    browser.read("The deny stays behind");
    browser.choose("main button", "Add to draft");
    browser.read("· 1 change");
    browser.click("[data-draft]");
    browser.read("loses");
    assertThat(browser.text()).as("removing comes first").doesNotContain("is denied Draft loans");
  }

  @Test
  void twoPeopleAreCompared(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/people/noor.haddad");
    browser.choose("main a", "Compare");
    browser.click("button[data-field='The other']");
    browser.choose(".ant-select-item-option", "A person or service");
    browser.pick("tess", "Tess Aldergate");
    browser.read("Only Noor Haddad:");
    browser.read("Only Tess Aldergate:");
    assertThat(browser.all("main figure svg")).hasSize(2);
  }

  @Test
  void aViewWithAnothersEyesShowsWhatSheSeesAndOneKeyLeaves(Browser browser) {
    browser.signInAs("Marten Holloway");
    browser.open("/look?as=noor.haddad");
    browser.read("The trail records");
    browser.choose("button", "Start view");
    browser.read("You see what Noor Haddad would see without a second factor");
    browser.read("Loans officer");
    assertThat(browser.text()).doesNotContain("People");
    browser.open("/people");
    browser.read("what Noor Haddad would see");
    browser.open("/settings");
    browser.read("what Noor Haddad would see");
    browser.blur();
    browser.press("x");
    browser.read("View as Noor Haddad");
    assertThat(browser.text()).doesNotContain("would see");
    browser.open("/trail?text=Began%20to%20see");
    browser.read("Began to see Mandala as Noor Haddad would");
  }
}
