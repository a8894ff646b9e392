package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
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
    assertThat(browser.see("h1").getText())
        .contains("What can Odile Farrow do in Quillhaven Sea Museum today");
    assertThat(browser.all("section[aria-label='Access by place'] tbody th")).hasSizeBetween(5, 30);
    browser.see("button[data-permission='loan.draft'][data-verdict='allowed']");
    browser.see("[data-figure='full'] [data-sector][role='button']");
  }

  @Test
  void aPetalNarrowsTheTableAndTheAddressKeepsIt(Browser browser) {
    browser.open("/ask?who=odile.farrow&in=quillhaven&factor=1");
    browser.read("Collection rooms");
    browser.focus("[data-sector][aria-label^='Purchasing']");
    browser.press(Keys.ENTER);
    browser.read("Only Purchasing");
    assertThat(browser.address()).contains("area=q-purchasing");
    assertThat(browser.all("section[aria-label='Access by place'] tbody th").getFirst())
        .contains("Purchasing");
    browser.reload();
    browser.read("Only Purchasing");
    browser.choose("main button", "Show all areas");
    browser.readNoMore("Only Purchasing");
  }

  @Test
  void aCellOpensItsRoutesAndTheLinkCanBeShared(Browser browser) {
    browser.open("/ask?who=petra.lowe&in=quillhaven&factor=1");
    browser.click("button[data-permission='loan.approve'][data-verdict='allowed']");
    browser.read("Approve loans · on ");
    browser.read("allowed by 1 route");
    assertThat(browser.all("section[aria-label='Routes'] li strong"))
        .contains("Petra Lowe", "Loans lead", "Loan sign-off", "Approve loans");
    String shared = browser.address();
    browser.open("/people");
    browser.read("People in");
    browser.open(shared);
    browser.read("allowed by 1 route");
  }

  @Test
  void theSecondFactorChangesTheAnswerAtOnce(Browser browser) {
    browser.open("/ask?who=petra.lowe&in=quillhaven&factor=1");
    browser.see("button[data-permission='loan.approve'][data-verdict='allowed']");
    browser.click("button[data-field='Second factor']");
    browser.choose(".ant-select-item-option", "without a second factor");
    browser.see("button[data-permission='loan.approve'][data-verdict='none']");
    assertThat(browser.address()).doesNotContain("factor=1");
    browser.click("button[data-permission='loan.approve']");
    browser.read("needs a second factor, for the role Loans lead");
  }

  @Test
  void theAccountAndTheDateChangeTheAnswerAtOnce(Browser browser) {
    browser.open("/ask?who=pia.lund&in=fernwick");
    browser.read("The account itself");
    browser.click("button[data-field='Where']");
    browser.press("quill");
    browser.press(Keys.ENTER);
    browser.read("in Quillhaven Sea Museum today");
    browser.see("button[data-permission='loan.ship'][data-verdict='allowed']");
    browser.click("button[data-field='When']");
    browser.type("input[placeholder^='2026']", "2026-02-01T09:00:00Z");
    browser.choose("button", "Use this time");
    browser.read("on 1 Feb 2026, 09:00 UTC");
    browser.gone("button[data-permission='loan.ship'][data-verdict='allowed']");
    assertThat(browser.address()).contains("in=quillhaven").contains("at=2026-02-01T09");
  }

  @Test
  void actingAsAnotherShowsWhatTheDelegationLetsThrough(Browser browser) {
    browser.open("/ask?who=noor.haddad&in=quillhaven&factor=1&for=petra.lowe");
    browser.read("acting as Petra Lowe");
    browser.see("button[data-permission='loan.approve'][data-verdict='allowed']");
    browser.open("/ask?who=noor.haddad&in=quillhaven&factor=1&for=mira.kestrel");
    browser.read("Noor Haddad can't act for Mira Kestrel at that time");
  }

  @Test
  void anUnknownPersonAndAWrongInstantInTheAddressAreTold(Browser browser) {
    browser.open("/ask?who=no.body&in=quillhaven");
    browser.read("There is nobody called 'no.body' whose access you can ask about.");
    browser.open("/ask?who=noor.haddad&in=quillhaven&at=soon");
    browser.read("“soon” is not a date and time.");
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
    browser.read("People in");
    browser.press("?");
    browser.read("Which question do I ask?");
    browser.press(Keys.ESCAPE);
  }

  @Test
  void aWholeQuestionIsTypedIntoTheSearch(Browser browser) {
    browser.open("/ask?who=noor.haddad&in=quillhaven");
    browser.read("Loans desk");
    for (String wording :
        List.of(
            "Why can't Noor Haddad approve loans on Outgoing, 2026?",
            "noor haddad approving loans, outgoing, 2026: why not",
            "can Noor Haddad on Outgoing, 2026 approve loans")) {
      browser.type("#search", wording);
      browser.read("Why can, or can’t, Noor Haddad use “Approve loans” on Outgoing, 2026?");
      browser.press(Keys.ENTER);
      browser.read("Why can or can’t");
      assertThat(browser.address()).contains("who=noor.haddad").contains("permission=loan.approve");
    }
    browser.type("#search", "loans approve");
    browser.read("Who can use “Approve loans” on …?");
    browser.type("#search", "who can zzyx");
    browser.read("No matches. Try another part of the name, or ask");
  }

  @Test
  void aSessionThatEndsInTheMiddleKeepsThePage(Browser browser) {
    browser.open("/ask?who=odile.farrow&in=quillhaven");
    browser.read("Collection rooms");
    String address = browser.address();
    browser.loseSession();
    browser.click("button[data-permission='room.view']");
    browser.read("Your session has ended");
    browser.choose("[data-person]", "Vera Lindqvist");
    browser.click("form[aria-label='Sign in'] button[type=submit]");
    browser.readNoMore("Your session has ended");
    browser.read("View rooms · on ");
    assertThat(browser.address()).startsWith(address);
  }
}
