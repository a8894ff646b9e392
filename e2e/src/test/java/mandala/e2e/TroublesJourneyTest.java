package mandala.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** Each planted trouble of the demo (docs/demo.md) is found by itself, and by asking. */
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

  @ParameterizedTest
  @CsvSource({
    "left-over, odile.farrow, Odile Farrow kept a guest membership of Fernwick Gallery",
    "exclusion, petra.lowe, Petra Lowe holds both sides",
    "broad-scope, strongroom, covers everything and crosses seals",
    "guest-past-purpose, gil, Gil Moreau is a guest of Quillhaven Sea Museum",
    "few-become-many, o-closed-readers, Closed-paper readers contains",
    "deny-locks-gate, volunteers, denies the gate Open the loans desk",
    "unused-role, map-room, Map room keeper isn't assigned",
    "alike-roles, cataloguer, grant the same",
    "exclusion-within-reach, noor.haddad, by acting for Petra Lowe",
    "still-answers, hanne.sorrel, Hanne Sorrel left and still has 1 thing they own",
    "service-with-persons-role, label-printer, Label printer holds Registrar",
  })
  void eachIsFoundByItself(String kind, String text, String said, Browser browser) {
    browser.open("/checks?kind=" + kind + "&text=" + text);
    browser.read(said);
  }

  @Test
  void aFindingIsSettledByItsRemedy(Browser browser) {
    browser.open("/checks?kind=deny-locks-gate");
    browser.choose("main tbody button", "denies the gate");
    browser.choose("[aria-label='Remedies'] button", "Remove assignment");
    browser.read("Added to your draft.");
    browser.read("In a draft");
  }

  @Test
  void aRegistrarWhoMovedIsTheOddOneOutAmongColleagues(Browser browser) {
    browser.open("/ask?who=odile.farrow&in=quillhaven&doors=1&factor=1");
    browser.read("Fernwick Gallery · Loans desk");
    browser.open("/ask/differ?one=odile.farrow");
    browser.click("button[data-field='The other']");
    browser.choose(".ant-select-item-option", "What their colleagues have in common");
    browser.read("Colleagues of Odile Farrow");
    browser.read("Purchasing");
    assertThat(browser.all("main figure [data-edge=raised]")).isNotEmpty();
  }

  @Test
  void aDrafterWhoApprovesBreaksAnExclusion(Browser browser) {
    browser.open("/checks");
    browser.read("Petra Lowe holds both sides");
  }

  @Test
  void aRoleOverEverythingShowsAmongTheRoutes(Browser browser) {
    browser.open("/ask/who?permission=strongroom.open&on=q-strongroom");
    browser.choose(".ant-segmented-item", "By route");
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
    browser.choose(".ant-segmented-item", "By route");
    browser.read("Closed-paper readers");
    browser.read("Abel Sandoz");
    browser.open("/groups/o-closed-readers");
    browser.read("Abel Sandoz");
    assertThat(browser.text()).doesNotContain("Contains none");
  }

  @Test
  void aDenyThatLocksAGateLeavesAllBehindItBlocked(Browser browser) {
    browser.open("/ask/who?permission=loan.view&below=t-loans-desk");
    browser.read("Blocked: granted, but a gate is missing");
    browser.read("Kamil Kimura");
    browser.open("/ask/who?permission=desk.open&on=t-loans-desk");
    browser.read("Denied");
    browser.read("Kamil Kimura");
  }

  @Test
  void aRoleThatNobodyUsesIsHeldByNobody(Browser browser) {
    browser.open("/rights/roles/map-room-keeper");
    browser.read("No holders");
  }

  @Test
  void twoRolesAlikeInAllButNameDoNotDiffer(Browser browser) {
    browser.open("/ask/differ?one=role:cataloguer&other=role:records-cataloguer&in=brack");
    browser.read("No difference.");
  }

  @Test
  void aDelegateWhoGainsAnExcludedPairShowsInAllThatIsWithinReach(Browser browser) {
    browser.open("/ask?who=noor.haddad&in=quillhaven&factor=1");
    browser.choose("main button", "Add a condition");
    browser.choose(".ant-dropdown-menu-item", "Acting for somebody");
    browser.click("button[data-field='Acting as']");
    browser.choose(".ant-select-item-option", "themselves and everyone they can act for");
    browser.read("acting for Petra Lowe");
    browser.see("button[data-permission='loan.draft'][data-verdict='allowed']");
    browser.click("button[data-permission='loan.approve'][data-verdict='allowed']");
    browser.read("acting for Petra Lowe");
  }

  @Test
  void aLeaverWhoStillOwnsAGroupIsNamedThereAsOne(Browser browser) {
    browser.open("/groups/b-keyholders");
    browser.read("owned by Hanne Sorrel (left)");
  }

  @Test
  void aServiceWithAPersonsRoleStandsAmongThePeople(Browser browser) {
    browser.open("/ask/who?permission=loan.draft&on=q-loan-101");
    browser.choose(".ant-segmented-item", "By route");
    browser.read("Label printer");
    browser.read("Registrar on Larkmoor Museums Trust");
  }

  /** Looked at with her eyes: three objects where she is a guest, and no other page. */
  @Test
  void aGuestSeesThreeObjectsAndNothingElse(Browser browser) {
    browser.signInAs("Marten Holloway");
    browser.open("/look?as=nell.harrow");
    browser.choose("button", "Start view");
    browser.read("what Nell Harrow would see");
    browser.open("/ask?who=nell.harrow&in=brack&area=b-rooms");
    browser.read("3 rights");
    browser.read("Early whistle and 2 others");
    List<String> rows = browser.all("section[aria-label='Access by place'] tbody th");
    assertThat(rows).as("of the room around them she is not told").hasSize(1);
    assertThat(rows).noneMatch(it -> it.contains("Loans") || it.contains("Payroll"));
    assertThat(browser.all("button[data-verdict='allowed']")).isNotEmpty();
    assertThat(browser.all("button[data-verdict='blocked']")).isEmpty();
    browser.open("/people");
    browser.read("You can't see other people");
    browser.open("/places");
    browser.read("Nell Harrow would see");
    assertThat(browser.text()).doesNotContain("Loans desk");
    assertThat(browser.all("nav[aria-label='Main'] a"))
        .noneMatch(it -> it.contains("People") || it.contains("Rights") || it.contains("Places"));
  }
}
