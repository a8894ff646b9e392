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
    browser.read("Choose what");
    browser.click("button[aria-label='What']");
    browser.choose("li[role=option]", "do anything critical");
    browser.read("principals can");
    browser.open("/ask/who?permission=object.view&on=account:quillhaven");
    browser.read("That does not apply there");
    browser.open("/checks");
    browser.read("Drafts and approves the same loan");
    browser.read("Arlo Yates");
  }

  @Test
  void whyNotBecomesADraftThatGivesIt(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/checks");
    browser.read("Lena Wyndham");
    browser.choose("button", "why, and what ends it");
    browser.read("allowed by");
    browser.choose("button", "What must go for it to end?");
    browser.read("is denied Draft loans");
    browser.choose(".ways button", "Into the draft");
    browser.read("Draft · 1 change");
    browser.click(".draft-pill");
    browser.read("is denied Draft loans");
    browser.read("loses 1 right");
  }

  @Test
  void twoPeopleAreCompared(Browser browser) {
    browser.signInAs("Ilse Varga");
    browser.open("/people/noor.haddad");
    browser.choose(".acts a", "Compare");
    browser.click("button[aria-label='The other']");
    browser.choose("li[role=option]", "somebody");
    browser.type(".ant-popover:not(.ant-popover-hidden) .choose input", "tess");
    browser.choose("li[role=option]", "Tess Aldergate");
    browser.read("Only Noor Haddad:");
    browser.read("Only Tess Aldergate:");
    assertThat(browser.all(".differ svg")).hasSize(2);
  }

  @Test
  void aViewWithAnothersEyesShowsWhatSheSeesAndOneKeyLeaves(Browser browser) {
    browser.signInAs("Marten Holloway");
    browser.open("/look?as=noor.haddad");
    browser.read("stands in the trail");
    browser.choose("button", "Look");
    browser.read("What Noor Haddad would see without a second factor");
    browser.read("Loans officer");
    assertThat(browser.text()).doesNotContain("People");
    browser.open("/people");
    browser.read("What Noor Haddad would see");
    browser.open("/settings");
    browser.read("What Noor Haddad would see");
    browser.blur();
    browser.press("x");
    browser.read("What can they do?");
    assertThat(browser.text()).doesNotContain("would see");
    browser.open("/trail?text=Began%20to%20see");
    browser.read("Began to see Mandala as Noor Haddad would");
  }
}
