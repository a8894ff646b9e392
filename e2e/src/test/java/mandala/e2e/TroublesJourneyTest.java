package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** Each planted trouble of the demo (docs/demo.md) is found by asking. */
@ExtendWith(Running.class)
class TroublesJourneyTest {

  @BeforeEach
  void signIn(Browser browser) {
    browser.beSignedInAs("Ilse Varga");
  }

  @AfterEach
  void withOnesOwnEyes(Browser browser) {
    browser.script("window.name = ''");
  }

  @Test
  void aRegistrarWhoMovedIsTheOddOneOutAmongColleagues(Browser browser) {
    browser.open("/ask?who=odile.farrow&in=quillhaven&doors=1&factor=1");
    browser.read("Fernwick Gallery · Loans desk");
    browser.open("/ask/differ?one=odile.farrow");
    browser.click("button[aria-label='The other']");
    browser.choose("li[role=option]", "what their colleagues have in common");
    browser.read("Colleagues of Odile Farrow");
    browser.read("Purchasing");
    assertThat(browser.all(".differ .petal-raised")).isNotEmpty();
  }

  @Test
  void aDrafterWhoApprovesBreaksAnExclusion(Browser browser) {
    browser.open("/checks");
    browser.read("Petra Lowe takes 2 of its sides");
  }

  @Test
  void aRoleOverEverythingShowsAmongTheRoutes(Browser browser) {
    browser.open("/ask/who?permission=strongroom.open&on=q-strongroom");
    browser.choose("label", "by route");
    browser.read("Bas Quill");
    browser.read("everything");
  }

  @Test
  void aGuestWhoseShowClosedStillComesIn(Browser browser) {
    browser.open("/ask?who=gil.moreau&in=quillhaven&factor=1&area=q-rooms");
    browser.read("Room 3");
    browser.read("This covers only the accounts you can ask about");
  }

  @Test
  void aGroupNestedTheWrongWayOpensTheClosedPapersToAll(Browser browser) {
    browser.open("/ask/who?permission=archive.closed&on=o-closed");
    browser.choose("label", "by route");
    browser.read("Closed-paper readers");
    browser.read("Abel Sandoz");
    browser.open("/groups/o-closed-readers");
    browser.read("Abel Sandoz");
    assertThat(browser.text()).doesNotContain("Holds no other group");
  }

  @Test
  void aDenyThatLocksAGateLeavesAllBehindItBlocked(Browser browser) {
    browser.open("/ask/who?permission=loan.view&below=t-loans-desk");
    browser.read("Are given it, but lack a gate");
    browser.read("Kamil Kimura");
    browser.open("/ask/who?permission=desk.open&on=t-loans-desk");
    browser.read("Are denied it");
    browser.read("Kamil Kimura");
  }

  @Test
  void aRoleThatNobodyUsesIsHeldByNobody(Browser browser) {
    browser.open("/rights/roles/map-room-keeper");
    browser.read("Nobody holds it");
  }

  @Test
  void twoRolesAlikeInAllButNameDoNotDiffer(Browser browser) {
    browser.open("/ask/differ?one=role:cataloguer&other=role:records-cataloguer&in=brack");
    browser.read("They do not differ.");
  }

  @Test
  void aDelegateWhoGainsAnExcludedPairShowsInAllThatIsWithinReach(Browser browser) {
    browser.open("/ask?who=noor.haddad&in=quillhaven&factor=1");
    browser.click("button[aria-label='Acting as']");
    browser.choose("li[role=option]", "themselves and all they may act for");
    browser.read("acting for Petra Lowe");
    browser.see(".mark-button[data-permission='loan.draft'][data-verdict='allowed']");
    browser.click(".mark-button[data-permission='loan.approve'][data-verdict='allowed']");
    browser.read("acting for Petra Lowe");
  }

  @Test
  void aLeaverWhoStillOwnsAGroupIsNamedThereAsOne(Browser browser) {
    browser.open("/groups/b-keyholders");
    browser.read("Hanne Sorrel (left) answers for it");
  }

  @Test
  void aServiceWithAPersonsRoleStandsAmongThePeople(Browser browser) {
    browser.open("/ask/who?permission=loan.draft&on=q-loan-101");
    browser.choose("label", "by route");
    browser.read("Label printer");
    browser.read("Registrar on Larkmoor Museums Trust");
  }

  /** Looked at with her eyes: three objects where she is a guest, and no other page. */
  @Test
  void aGuestSeesThreeObjectsAndNothingElse(Browser browser) {
    browser.signInAs("Marten Holloway");
    browser.open("/look?as=nell.harrow");
    browser.choose("button", "Look");
    browser.read("What Nell Harrow would see");
    browser.open("/ask?who=nell.harrow&in=brack&area=b-rooms");
    browser.read("3 rights");
    browser.read("Early whistle and 2 others");
    List<String> rows = browser.all(".access tbody th");
    assertThat(rows).as("of the room around them she is not told").hasSize(1);
    assertThat(rows).noneMatch(it -> it.contains("Loans") || it.contains("Payroll"));
    assertThat(browser.all(".mark-button[data-verdict='allowed']")).isNotEmpty();
    assertThat(browser.all(".mark-button[data-verdict='blocked']")).isEmpty();
    browser.open("/people");
    browser.read("Your access does not cover other people");
    browser.open("/places");
    browser.read("Nell Harrow would see");
    assertThat(browser.text()).doesNotContain("Loans desk");
    assertThat(browser.all(".rail a"))
        .noneMatch(it -> it.contains("People") || it.contains("Rights") || it.contains("Places"));
  }
}
