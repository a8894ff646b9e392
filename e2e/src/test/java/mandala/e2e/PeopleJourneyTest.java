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
    browser.read("People of Quillhaven Sea Museum");
    browser.type(".field-input", "farrow");
    browser.read("1 person");
    browser.see(".people-row .mandala.thumb");
    browser.choose(".people-row a", "Odile Farrow");
    browser.read("What can Odile Farrow do in Quillhaven Sea Museum");
  }

  @Test
  void aLongListFetchesWhatIsInSight(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
    browser.open("/people?in=larkmoor");
    browser.see(".people-row a");
    browser.script("document.querySelector('.people-body').scrollTop = 200 * 58");
    browser.see("[aria-rowindex='206'] a");
    assertThat(browser.all(".people-body .people-row")).hasSizeLessThan(40);
  }

  @Test
  void nobodyFitsIsSaid(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
    browser.open("/people?in=quillhaven&text=zzzz");
    browser.read("Nobody fits. Loosen a word of the sentence.");
  }

  @Test
  void aPlainPersonSeesHerOwnAccessAndIsRefusedTheRest(Browser browser) {
    browser.signInAs("Noor Haddad");
    browser.read("What can Noor Haddad do in Quillhaven Sea Museum");
    assertThat(browser.all(".rail a")).doesNotContain("People");
    browser.open("/people");
    browser.read("Your access does not cover other people");
    browser.open("/ask?who=tomas.brandt&in=quillhaven");
    browser.read("There is nobody called 'tomas.brandt' whose access you may ask about.");
  }

  @Test
  void aDelegatedAdministratorSeesTheMuseumOnly(Browser browser) {
    browser.signInAs("Dario Penn");
    browser.open("/people?in=fernwick");
    browser.read("People of Fernwick Gallery");
    browser.click(".account-path");
    browser.see("[role=option]");
    assertThat(browser.all("[role=option]")).containsExactly("Fernwick Gallery");
  }

  @Test
  void aWrongPasswordIsToldAndTheNameStays(Browser browser) {
    browser.forget();
    browser.open("/");
    browser.type("input[autocomplete=username]", "pia.lund");
    browser.type("input[autocomplete=current-password]", "wrong");
    browser.click("form[aria-label='Sign in'] button[type=submit]");
    browser.read("The name or the password is not right.");
    assertThat(browser.see("input[autocomplete=username]").getDomProperty("value"))
        .isEqualTo("pia.lund");
  }
}
