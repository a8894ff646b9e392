package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Who is there, and who may see whom. */
@ExtendWith(Running.class)
class PeopleJourneyTest {

  @Test
  void theSentenceFiltersAndARowLeadsToItsAnswer(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
    browser.open("/people?in=quillhaven");
    browser.read("People in Quillhaven Sea Museum");
    browser.type("input[aria-label='Part of the name']", "farrow");
    browser.read("1 person");
    browser.see("[data-figure='thumb']");
    browser.choose(".ant-table-row a", "Odile Farrow");
    browser.read("reports to Tomas Brandt");
    browser.read("What can Odile Farrow do in Quillhaven Sea Museum and across its bridges");
    browser.see("[data-figure]");
    browser.choose("main a", "Tomas Brandt");
    browser.read("What can Tomas Brandt do in Quillhaven Sea Museum and across its bridges");
    browser.choose("[role=tab]", "Reports");
    browser.choose("main a", "Odile Farrow");
    browser.read("What can Odile Farrow do");
  }

  @Test
  void aLongListFetchesWhatIsInSight(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
    browser.open("/people?in=larkmoor");
    browser.see(".ant-table-row a");
    browser.script(
        "document.querySelector('.ant-table-tbody-virtual-holder').scrollTop = 200 * 58");
    browser.see("[data-row-key='205'] a");
    assertThat(browser.all(".ant-table-tbody-virtual .ant-table-row")).hasSizeLessThan(40);
  }

  @Test
  void nobodyFitsIsSaid(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
    browser.open("/people?in=quillhaven&text=zzzz");
    browser.read("No one matches these filters.");
  }

  @Test
  void aPlainPersonSeesHerOwnAccessAndIsRefusedTheRest(Browser browser) {
    browser.signInAs("Noor Haddad");
    browser.read("What can Noor Haddad do in Quillhaven Sea Museum");
    assertThat(browser.all("nav[aria-label='Main'] a")).doesNotContain("People");
    browser.open("/people");
    browser.read("You can't see other people");
    browser.open("/ask?who=tomas.brandt&in=quillhaven");
    browser.read("There is nobody called 'tomas.brandt' whose access you can ask about.");
  }

  @Test
  void aDelegatedAdministratorSeesTheMuseumOnly(Browser browser) {
    browser.signInAs("Dario Penn");
    browser.open("/people?in=fernwick");
    browser.read("People in Fernwick Gallery");
    browser.click("header button[data-field='Account']");
    browser.see(".ant-select-item-option");
    assertThat(browser.all(".ant-select-item-option")).containsExactly("Fernwick Gallery");
  }

  @Test
  void aWrongPasswordIsToldAndTheNameStays(Browser browser) {
    browser.forget();
    browser.open("/");
    browser.type("input[autocomplete=username]", "pia.lund");
    browser.type("input[autocomplete=current-password]", "wrong");
    browser.click("form[aria-label='Sign in'] button[type=submit]");
    browser.read("The name or the password is wrong.");
    assertThat(browser.see("input[autocomplete=username]").getDomProperty("value"))
        .isEqualTo("pia.lund");
  }
}
