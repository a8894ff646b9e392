package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.openqa.selenium.Keys;

/** A security administrator asks what somebody can do, and why. */
@ExtendWith(Running.class)
class AskJourneyTest {

  @BeforeEach
  void signIn(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
  }

  @Test
  void sheAsksWhatSomebodyCanDo(Browser browser) {
    browser.open("/ask?who=odile.farrow&in=quillhaven&factor=1");
    browser.read("Loans desk");
    assertThat(browser.see(".sentence").getText())
        .contains("What can Odile Farrow do in Quillhaven Sea Museum on today");
    assertThat(browser.all(".access tbody th")).hasSizeBetween(5, 30);
    browser.see(".mark-button[data-permission='loan.draft'][data-verdict='allowed']");
    browser.see(".instrument .mandala .sector[role=button]");
  }

  @Test
  void aPetalNarrowsTheTableAndTheAddressKeepsIt(Browser browser) {
    browser.open("/ask?who=odile.farrow&in=quillhaven&factor=1");
    browser.read("Collection rooms");
    browser.focus(".sector[aria-label^='Purchasing']");
    browser.press(Keys.ENTER);
    browser.read("Only Purchasing");
    assertThat(browser.address()).contains("area=q-purchasing");
    assertThat(browser.all(".access tbody th").getFirst()).contains("Purchasing");
    browser.reload();
    browser.read("Only Purchasing");
    browser.choose(".narrowed button", "Show all areas");
    browser.readNoMore("Only Purchasing");
  }

  @Test
  void aCellOpensItsRoutesAndTheLinkCanBeShared(Browser browser) {
    browser.open("/ask?who=petra.lowe&in=quillhaven&factor=1");
    browser.click(".mark-button[data-permission='loan.approve'][data-verdict='allowed']");
    browser.read("Approve loans · on ");
    browser.read("allowed by 1 route");
    assertThat(browser.all(".thread li strong"))
        .contains("Petra Lowe", "Loans lead", "Loan sign-off", "Approve loans");
    String shared = browser.address();
    browser.open("/people");
    browser.read("People of");
    browser.open(shared);
    browser.read("allowed by 1 route");
  }

  @Test
  void theSecondFactorChangesTheAnswerAtOnce(Browser browser) {
    browser.open("/ask?who=petra.lowe&in=quillhaven&factor=1");
    browser.see(".mark-button[data-permission='loan.approve'][data-verdict='allowed']");
    browser.click("button[aria-label='Second factor']");
    browser.choose("[role=option]", "without a second factor");
    browser.see(".mark-button[data-permission='loan.approve'][data-verdict='none']");
    assertThat(browser.address()).doesNotContain("factor=1");
    browser.click(".mark-button[data-permission='loan.approve']");
    browser.read("needs a second factor, for the role Loans lead");
  }

  @Test
  void theAccountAndTheDateChangeTheAnswerAtOnce(Browser browser) {
    browser.open("/ask?who=pia.lund&in=fernwick");
    browser.read("The account itself");
    browser.click("button[aria-label='Where']");
    browser.press("quill");
    browser.press(Keys.ENTER);
    browser.read("in Quillhaven Sea Museum on");
    browser.see(".mark-button[data-permission='loan.ship'][data-verdict='allowed']");
    browser.click("button[aria-label='When']");
    browser.type(".when input[placeholder^='2026']", "2026-02-01T09:00:00Z");
    browser.choose(".when button", "Ask then");
    browser.read("on 1 February 2026, 09:00 UTC");
    browser.gone(".mark-button[data-permission='loan.ship'][data-verdict='allowed']");
    assertThat(browser.address()).contains("in=quillhaven").contains("at=2026-02-01T09");
  }

  @Test
  void actingAsAnotherShowsWhatTheDelegationLetsThrough(Browser browser) {
    browser.open("/ask?who=noor.haddad&in=quillhaven&factor=1&for=petra.lowe");
    browser.read("acting as Petra Lowe");
    browser.see(".mark-button[data-permission='loan.approve'][data-verdict='allowed']");
    browser.open("/ask?who=noor.haddad&in=quillhaven&factor=1&for=mira.kestrel");
    browser.read("Noor Haddad may not act for Mira Kestrel then.");
  }

  @Test
  void anUnknownPersonAndAWrongInstantInTheAddressAreTold(Browser browser) {
    browser.open("/ask?who=no.body&in=quillhaven");
    browser.read("There is nobody called 'no.body' whose access you may ask about.");
    browser.open("/ask?who=noor.haddad&in=quillhaven&at=soon");
    browser.read("“soon” is no instant.");
    browser.read("What can");
  }

  @Test
  void theKeyboardIsEnough(Browser browser) {
    browser.open("/ask?who=noor.haddad&in=quillhaven");
    browser.read("Loans desk");
    browser.press("/");
    browser.press("farrow");
    browser.read("Registrar, Quillhaven Sea Museum");
    browser.press(Keys.ENTER);
    browser.read("What can Odile Farrow");
    browser.blur();
    browser.press("g");
    browser.press("p");
    browser.read("People of");
    browser.press("?");
    browser.read("go to your own access");
    browser.press(Keys.ESCAPE);
  }

  @Test
  void aWholeQuestionIsTypedIntoTheSearch(Browser browser) {
    browser.open("/ask?who=noor.haddad&in=quillhaven");
    browser.read("Loans desk");
    browser.type("#search", "Why can't Noor Haddad approve loans on Outgoing, 2026?");
    browser.read("ask this");
    browser.press(Keys.ENTER);
    browser.read("Why can, or can’t,");
    browser.type("#search", "what can nobody at all do");
    browser.read("ask this");
    browser.press(Keys.ENTER);
    browser.read("is nothing that you may ask about");
  }

  @Test
  void aSessionThatEndsInTheMiddleKeepsThePage(Browser browser) {
    browser.open("/ask?who=odile.farrow&in=quillhaven");
    browser.read("Collection rooms");
    String address = browser.address();
    browser.loseSession();
    browser.click(".mark-button[data-permission='room.view']");
    browser.read("Your session has ended");
    browser.choose(".demo-people button", "Vera Lindqvist");
    browser.click("form[aria-label='Sign in'] button[type=submit]");
    browser.readNoMore("Your session has ended");
    browser.read("View rooms · on ");
    assertThat(browser.address()).startsWith(address);
  }
}
