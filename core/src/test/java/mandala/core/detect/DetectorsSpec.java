package mandala.core.detect;

import static mandala.core.detect.PlantedModel.assignment;
import static mandala.core.detect.PlantedModel.group;
import static mandala.core.detect.PlantedModel.ofPermission;
import static mandala.core.detect.PlantedModel.ofRole;
import static mandala.core.detect.PlantedModel.person;
import static mandala.core.detect.PlantedModel.principal;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import mandala.core.analysis.Peers;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Each detector finds what is planted, tells it right, and finds nothing in a clean model. */
class DetectorsSpec {

  private static final Clause EVERYTHING = Clause.of(new Term.Everything());

  private final PlantedModel museum = new PlantedModel();

  private static PrincipalKey who(String key) {
    return new PrincipalKey(key);
  }

  private static AssignmentKey which(String key) {
    return new AssignmentKey(key);
  }

  /** What was planted is found, and nothing else of its kind; a remedy that is ready settles it. */
  private void assertFinds(Trouble planted) {
    assertThat(ModelCheck.faultsOf(museum.model())).isEmpty();
    List<Detection> found = museum.found();
    assertThat(found)
        .filteredOn(it -> it.trouble().detector() == planted.detector())
        .extracting(Detection::trouble)
        .containsExactly(planted);
    Detection one =
        found.stream().filter(it -> it.trouble().equals(planted)).findFirst().orElseThrow();
    assertThat(one.weight()).isPositive();
    for (Remedies.Remedy remedy :
        Remedies.of(planted, Engine.of(museum.model()), PlantedModel.NOW)) {
      assertThat(museum.foundAfter(remedy.changes()))
          .as("after %s", remedy.act())
          .extracting(Detection::id)
          .doesNotContain(one.id());
    }
  }

  private void assertFindsNoneOf(Detector detector) {
    assertThat(museum.found())
        .filteredOn(it -> it.trouble().detector() == detector)
        .extracting(Detection::trouble)
        .isEmpty();
  }

  private List<Remedies.Act> acts(Trouble trouble) {
    return Remedies.of(trouble, Engine.of(museum.model()), PlantedModel.NOW).stream()
        .map(Remedies.Remedy::act)
        .toList();
  }

  @Test
  void nothingIsFoundWhereNothingIsWrong() {
    assertThat(museum.found()).extracting(Detection::trouble).isEmpty();
  }

  // ---- use --------------------------------------------------------------------------------------

  @Test
  void useOfWhatIsNotAllowed() {
    museum.uses("cy", "view", "gem", 2).uses("cy", "edit", "gem", 1);
    assertFinds(
        new Trouble.UseNotAllowed(
            who("cy"),
            new PermissionKey("edit"),
            new ResourceKey("gem"),
            LocalDate.parse("2026-05-09"),
            2));
  }

  @Test
  void useOfWhatWasAllowedOnItsDayIsNoTrouble() {
    museum
        .with(
            until(
                assignment("cy-vault", person("cy"), ofRole("keeper"), "vault"),
                Instant.parse("2026-05-10T11:00:00Z")))
        .uses("cy", "edit", "gem", 1);
    assertFindsNoneOf(Detector.USE_NOT_ALLOWED);
  }

  @Test
  void useOfWhatIsActivatedNowAndThenIsNoTrouble() {
    museum
        .with(
            assignment("cy-vault", person("cy"), ofRole("keeper"), "vault")
                .in(Assignment.Mode.JUST_IN_TIME))
        .uses("cy", "edit", "gem", 1);
    assertFindsNoneOf(Detector.USE_NOT_ALLOWED);
  }

  @Test
  void rightsOfHighRiskThatSomebodyDoesNotUse() {
    museum.usesOnlyWhatIsRecorded("cy").uses("cy", "enter", "hall").uses("cy", "edit", "coin");
    assertFinds(new Trouble.UnusedRights(who("cy"), new PermissionKey("edit"), 1));
    assertThat(museum.found())
        .filteredOn(it -> it.trouble() instanceof Trouble.UnusedRights)
        .extracting(Detection::weight)
        .containsExactly(11L);
  }

  @Test
  void unusedRightsOfLowRiskAreNoTrouble() {
    museum
        .with(assignment("cy-enters", person("cy"), ofPermission("enter"), "vault"))
        .usesOnlyWhatIsRecorded("cy")
        .uses("cy", "edit", "coin")
        .uses("cy", "edit", "ring");
    assertFindsNoneOf(Detector.UNUSED_RIGHTS);
  }

  @Test
  void whatIsNotObservedIsNotUnused() {
    museum.usesOnlyWhatIsRecorded("cy").observing("enter");
    assertFindsNoneOf(Detector.UNUSED_RIGHTS);
    assertFindsNoneOf(Detector.UNUSED_ASSIGNMENT);
    assertThat(museum.found())
        .extracting(Detection::trouble)
        .contains(new Trouble.NotObserved(new PermissionKey("edit"), 1))
        .contains(new Trouble.NotObserved(new PermissionKey("view"), 1))
        .doesNotContain(new Trouble.NotObserved(new PermissionKey("enter"), 1));
  }

  @Test
  void whereNothingIsObservedNoUseIsMissed() {
    museum.usesOnlyWhatIsRecorded("cy").observingNothing();
    assertThat(museum.found())
        .extracting(Detection::trouble)
        .as("the museum is clean but for use")
        .isEmpty();
  }

  @Test
  void somebodyWhoUsesNothingAtAll() {
    museum.usesOnlyWhatIsRecorded("cy");
    assertFinds(new Trouble.Dormant(who("cy"), 5));
    assertFindsNoneOf(Detector.UNUSED_RIGHTS);
  }

  @Test
  void anAssignmentThatNobodyUses() {
    museum
        .with(assignment("cy-vault", person("cy"), ofRole("keeper"), "vault"))
        .usesOnlyWhatIsRecorded("cy")
        .uses("cy", "edit", "coin")
        .uses("cy", "edit", "ring");
    assertFinds(new Trouble.UnusedAssignment(which("cy-vault"), 1));
  }

  @Test
  void anAssignmentThatIsYoungIsNotUnused() {
    Assignment it = assignment("cy-vault", person("cy"), ofRole("keeper"), "vault");
    museum
        .with(within(it, new Window(PlantedModel.NOW.minusSeconds(86_400), null)))
        .usesOnlyWhatIsRecorded("cy")
        .uses("cy", "edit", "coin")
        .uses("cy", "edit", "ring");
    assertFindsNoneOf(Detector.UNUSED_ASSIGNMENT);
  }

  @Test
  void aScopeWiderThanItsUse() {
    museum
        .with(assignment("keeping-hall", group("keepers"), ofRole("keeper"), "account:trust"))
        .usesOnlyWhatIsRecorded("cy")
        .usesOnlyWhatIsRecorded("di")
        .uses("cy", "edit", "coin")
        .uses("di", "edit", "ring");
    Trouble planted =
        new Trouble.ScopeWiderThanUse(which("keeping-hall"), new ResourceKey("hall"), 3, 5);
    assertThat(museum.found())
        .extracting(Detection::trouble)
        .as("not yet twice as wide")
        .doesNotContain(planted);
    museum.place("attic", "room", null);
    assertFinds(
        new Trouble.ScopeWiderThanUse(which("keeping-hall"), new ResourceKey("hall"), 3, 6));
  }

  @Test
  void aRoleWiderThanItsUse() {
    museum
        .set("looking", "enter", "view")
        .role("visitor", "looking")
        .with(assignment("ada-visits", person("ada"), ofRole("visitor"), "hall"))
        .usesOnlyWhatIsRecorded("cy")
        .usesOnlyWhatIsRecorded("di")
        .uses("cy", "view", "coin")
        .uses("di", "view", "ring");
    assertFinds(
        new Trouble.RoleWiderThanUse(
            which("keeping-hall"), new Gives.OfSet(new PermissionSetKey("looking")), 2, 3));
  }

  @Test
  void aCriticalRightThatStandsAndIsUsedOnFewDays() {
    museum
        .permission("smelt", "object", Permission.Risk.CRITICAL, List.of(), List.of())
        .with(assignment("cy-smelts", person("cy"), ofPermission("smelt"), "coin"))
        .usesOnlyWhatIsRecorded("cy")
        .uses("cy", "edit", "coin")
        .uses("cy", "edit", "ring")
        .uses("cy", "smelt", "coin", 2);
    assertFinds(
        new Trouble.StandingCritical(
            which("cy-smelts"),
            who("cy"),
            new PermissionKey("smelt"),
            2,
            LocalDate.parse("2026-05-09")));
  }

  @Test
  void aCriticalRightThatIsUsedOftenMayStand() {
    museum
        .permission("smelt", "object", Permission.Risk.CRITICAL, List.of(), List.of())
        .with(assignment("cy-smelts", person("cy"), ofPermission("smelt"), "coin"));
    assertFindsNoneOf(Detector.STANDING_CRITICAL);
  }

  // ---- colleagues -------------------------------------------------------------------------------

  @Test
  void whatFewColleaguesHold() {
    for (String key : List.of("eli", "fay", "gus", "hal", "ivy", "jo")) {
      museum
          .with(
              principal(
                  key,
                  Principal.Kind.PERSON,
                  "ada",
                  Principal.Status.ACTIVE,
                  Map.of("title", "Guard")))
          .usesAll(key);
    }
    museum.with(assignment("jo-edits", person("jo"), ofRole("keeper"), "hall"));
    assertFinds(
        new Trouble.RareAmongColleagues(
            who("jo"), new PermissionKey("edit"), 1, 0, 5, Peers.Basis.TITLE));
    museum.with(assignment("ivy-edits", person("ivy"), ofRole("keeper"), "hall"));
    assertFindsNoneOf(Detector.RARE_AMONG_COLLEAGUES);
  }

  // ---- assignments ------------------------------------------------------------------------------

  @Test
  void anAssignmentThatAnotherOneCovers() {
    museum.with(assignment("keeping-coin", group("keepers"), ofPermission("view"), "hall"));
    assertFinds(new Trouble.RedundantAssignment(which("keeping-coin"), which("keeping-hall")));
  }

  private void assertGivesNothing(String key, Trouble.Nothing why) {
    assertFinds(new Trouble.GivesNothing(which(key), why));
  }

  @Test
  void anAssignmentThatIsOver() {
    Assignment it = assignment("cy-vault", person("cy"), ofRole("keeper"), "vault");
    museum.with(until(it, PlantedModel.NOW));
    assertGivesNothing("cy-vault", Trouble.Nothing.OVER);
    museum.with(within(it, new Window(PlantedModel.NOW.plusSeconds(1), null)));
    assertFindsNoneOf(Detector.GIVES_NOTHING);
  }

  @Test
  void anAssignmentOfARetiredRole() {
    museum
        .role("porter", true, "keeping")
        .with(assignment("cy-porter", person("cy"), ofRole("porter"), "vault"));
    assertGivesNothing("cy-porter", Trouble.Nothing.ROLE_RETIRED);
  }

  @Test
  void anAssignmentOfNoPermission() {
    museum
        .set("empty")
        .with(
            assignment(
                "cy-empty", person("cy"), new Gives.OfSet(new PermissionSetKey("empty")), "hall"));
    assertGivesNothing("cy-empty", Trouble.Nothing.GIVES_NO_PERMISSION);
  }

  @Test
  void anAssignmentThatCoversNothing() {
    museum.with(assignment("cy-enters", person("cy"), ofPermission("enter"), "coin"));
    assertGivesNothing("cy-enters", Trouble.Nothing.COVERS_NOTHING);
  }

  @Test
  void anAssignmentToNobody() {
    museum
        .group("none", new String[0])
        .with(assignment("none-keeps", group("none"), ofRole("keeper"), "hall"));
    assertGivesNothing("none-keeps", Trouble.Nothing.NO_HOLDERS);
  }

  @Test
  void anAssignmentThatIsDeniedEverywhere() {
    museum
        .with(assignment("cy-vault", person("cy"), ofPermission("enter"), "vault"))
        .with(deny("cy-not-vault", person("cy"), "enter", "vault"));
    assertGivesNothing("cy-vault", Trouble.Nothing.DENIED_EVERYWHERE);
  }

  @Test
  void anAssignmentBehindAGateThatIsNowhere() {
    museum.with(assignment("cy-views", person("cy"), ofPermission("view"), "gem"));
    assertGivesNothing("cy-views", Trouble.Nothing.GATE_NOWHERE);
  }

  @Test
  void scopesThatReachFar() {
    museum.with(
        assignment("cy-all", person("cy"), ofRole("keeper"), Assignment.Effect.ALLOW, EVERYTHING));
    assertFinds(new Trouble.BroadScope(which("cy-all"), List.of(Trouble.Breadth.EVERYTHING), 5));
  }

  @Test
  void everybodyAsSubject() {
    museum.with(assignment("all-enter", Subject.Public.SIGNED_IN, ofPermission("enter"), "hall"));
    assertFinds(new Trouble.BroadScope(which("all-enter"), List.of(Trouble.Breadth.PUBLIC), 1));
  }

  // ---- denies -----------------------------------------------------------------------------------

  private static Assignment deny(String key, Subject subject, String permission, String tree) {
    return assignment(
        key,
        subject,
        ofPermission(permission),
        Assignment.Effect.DENY,
        Clause.of(new Term.Tree(new ResourceKey(tree))));
  }

  @Test
  void aDenyThatLocksAGate() {
    museum.with(deny("cy-stays-out", person("cy"), "enter", "hall"));
    assertFinds(
        new Trouble.DenyLocksGate(
            which("cy-stays-out"), new PermissionKey("enter"), new PermissionKey("edit"), 1));
    assertFindsNoneOf(Detector.DENY_WITHOUT_EFFECT);
  }

  @Test
  void aDenyThatTakesNothing() {
    museum.with(deny("cy-not-vault", person("cy"), "enter", "vault"));
    assertFinds(new Trouble.DenyWithoutEffect(which("cy-not-vault")));
    assertFindsNoneOf(Detector.DENY_LOCKS_GATE);
  }

  @Test
  void aDenyThatTakesWhatCouldBeActivatedHasAnEffect() {
    museum
        .with(deny("cy-not-vault", person("cy"), "enter", "vault"))
        .with(
            assignment("cy-vault", person("cy"), ofPermission("enter"), "vault")
                .in(Assignment.Mode.JUST_IN_TIME));
    assertFindsNoneOf(Detector.DENY_WITHOUT_EFFECT);
  }

  // ---- people -----------------------------------------------------------------------------------

  @Test
  void aLeaverWhoStillHoldsAndOwns() {
    museum
        .with(principal("lee", Principal.Kind.PERSON, "ada", Principal.Status.LEFT, Map.of()))
        .with(assignment("lee-keeps", person("lee"), ofRole("keeper"), "hall"))
        .group("keepers", "cy", "di", "lee");
    assertFinds(new Trouble.StillAnswers(who("lee"), true, 1, 1, 0, 0));
    assertThat(museum.found())
        .filteredOn(it -> it.trouble() instanceof Trouble.StillAnswers)
        .extracting(Detection::risk)
        .containsExactly(Permission.Risk.HIGH);
  }

  @Test
  void aGroupWhoseOwnerLeft() {
    museum
        .with(principal("lee", Principal.Kind.PERSON, "ada", Principal.Status.LEFT, Map.of()))
        .with(
            new Group(
                new GroupKey("keepers"),
                About.NONE,
                new AccountKey("trust"),
                false,
                List.of(
                    new Group.Member.OfPrincipal(Principal.Kind.PERSON, who("cy")),
                    new Group.Member.OfPrincipal(Principal.Kind.PERSON, who("di"))),
                null,
                List.of(who("lee"))));
    assertFinds(new Trouble.NoLivingOwner(new GroupKey("keepers"), who("lee")));
    assertFinds(new Trouble.StillAnswers(who("lee"), true, 0, 0, 1, 0));
  }

  @Test
  void somebodyWithoutAManager() {
    museum.person("cy", null);
    assertFinds(new Trouble.NoManager(who("cy"), null));
  }

  @Test
  void somebodyWhoseManagerLeft() {
    museum
        .with(principal("lee", Principal.Kind.PERSON, null, Principal.Status.LEFT, Map.of()))
        .person("cy", "lee");
    assertFinds(new Trouble.NoManager(who("cy"), who("lee")));
  }

  @Test
  void aServiceWithAPersonsRole() {
    museum
        .with(principal("printer", Principal.Kind.SERVICE, null, Principal.Status.ACTIVE, Map.of()))
        .with(
            assignment(
                "printer-keeps",
                new Subject.OfPrincipal(Principal.Kind.SERVICE, who("printer")),
                ofRole("keeper"),
                "hall"))
        .usesAll("printer");
    assertFinds(new Trouble.ServiceWithPersonsRole(who("printer"), new RoleKey("keeper")));
  }

  @Test
  void aServiceWithoutASponsor() {
    Principal it =
        principal("printer", Principal.Kind.SERVICE, null, Principal.Status.ACTIVE, Map.of());
    assertThat(it.sponsor()).isNotNull();
    museum.with(it);
    assertFindsNoneOf(Detector.NO_LIVING_OWNER);
    museum.with(principal("ada", Principal.Kind.PERSON, null, Principal.Status.LEFT, Map.of()));
    assertThat(museum.found())
        .extracting(Detection::trouble)
        .contains(new Trouble.NoLivingOwner(who("printer"), who("ada")));
  }

  @Test
  void anAccountWithOneOwner() {
    museum.without(Kind.ASSIGNMENTS, "owner-ben");
    assertFinds(new Trouble.FewOwners(new AccountKey("trust"), 1));
  }

  // ---- guests -----------------------------------------------------------------------------------

  private void guest(@Nullable Instant until) {
    museum
        .with(Account.root("other"))
        .with(
            assignment(
                "owner-other-ada",
                person("ada"),
                new Gives.OfRole(mandala.core.model.Supplied.OWNER),
                "account:other"))
        .with(
            assignment(
                "owner-other-ben",
                person("ben"),
                new Gives.OfRole(mandala.core.model.Supplied.OWNER),
                "account:other"));
    for (String key : List.of("ada", "ben")) {
      museum.with(
          new Guest(About.NONE, who(key), new AccountKey("other"), false, Window.ALWAYS, null));
    }
    museum.with(
        new Guest(
            About.NONE, who("cy"), new AccountKey("other"), false, new Window(null, until), null));
  }

  @Test
  void guestsWithoutAnEnd() {
    guest(null);
    assertThat(museum.found())
        .filteredOn(it -> it.trouble().detector() == Detector.GUEST_WITHOUT_END)
        .extracting(Detection::trouble)
        .containsExactlyInAnyOrder(
            new Trouble.GuestWithoutEnd(who("ada"), new AccountKey("other")),
            new Trouble.GuestWithoutEnd(who("ben"), new AccountKey("other")),
            new Trouble.GuestWithoutEnd(who("cy"), new AccountKey("other")));
    assertThat(acts(new Trouble.GuestWithoutEnd(who("cy"), new AccountKey("other"))))
        .containsExactly(Remedies.Act.END_GUEST_MEMBERSHIP);
  }

  @Test
  void aGuestWhoUsesNothingThere() {
    guest(PlantedModel.NOW.plusSeconds(86_400));
    museum
        .with(
            new mandala.core.model.Resource(
                new ResourceKey("shed"),
                About.NONE,
                new mandala.core.model.key.TypeKey("room"),
                new AccountKey("other"),
                null,
                null,
                null,
                Map.of(),
                false))
        .with(assignment("cy-shed", person("cy"), ofPermission("enter"), "shed"))
        .usesOnlyWhatIsRecorded("cy")
        .uses("cy", "edit", "coin")
        .uses("cy", "edit", "ring");
    assertFinds(new Trouble.GuestPastPurpose(who("cy"), new AccountKey("other"), 1));
    museum.uses("cy", "enter", "shed");
    assertFindsNoneOf(Detector.GUEST_PAST_PURPOSE);
  }

  // ---- what is left over ------------------------------------------------------------------------

  @Test
  void whatSomebodyKeptFromAnEarlierTitle() {
    museum
        .with(titled("cy", "Clerk"))
        .with(titled("di", "Keeper"))
        .with(titled("ben", "Clerk"))
        .group("keepers", "di")
        .with(assignment("cy-keeps", person("cy"), ofRole("keeper"), "hall"));
    assertFindsNoneOf(Detector.LEFT_OVER);
    museum.moves.add(
        new Inquiry.Move(
            titled("cy", "Keeper"),
            Instant.parse("2026-03-01T00:00:00Z"),
            new Catalogue(museum.model())));
    assertFinds(
        new Trouble.LeftOver(
            who("cy"),
            which("cy-keeps"),
            Trouble.Moved.TITLE,
            "Keeper",
            Instant.parse("2026-03-01T00:00:00Z")));
  }

  @Test
  void whatCameAfterAMoveIsNotLeftOver() {
    museum.with(titled("cy", "Clerk")).with(titled("di", "Keeper")).with(titled("ben", "Clerk"));
    Catalogue before = new Catalogue(museum.model());
    museum
        .group("keepers", "di")
        .with(assignment("cy-keeps", person("cy"), ofRole("keeper"), "hall"));
    museum.moves.add(
        new Inquiry.Move(titled("cy", "Keeper"), Instant.parse("2026-03-01T00:00:00Z"), before));
    assertFindsNoneOf(Detector.LEFT_OVER);
  }

  private static Principal titled(String key, String title) {
    return principal(
        key, Principal.Kind.PERSON, "ada", Principal.Status.ACTIVE, Map.of("title", title));
  }

  // ---- roles, sets and groups -------------------------------------------------------------------

  @Test
  void aRoleASetAndAGroupThatNothingNames() {
    museum.set("spare", "enter").role("idle", "keeping").group("lonely", "cy");
    assertFinds(new Trouble.UnusedSet(new PermissionSetKey("spare")));
    assertFinds(new Trouble.UnusedRole(new RoleKey("idle")));
    assertFinds(new Trouble.UnusedGroup(new GroupKey("lonely")));
  }

  @Test
  void twoRolesThatGiveTheSame() {
    museum
        .role("warden", "keeping")
        .with(assignment("ben-wards", person("ben"), ofRole("warden"), "hall"));
    assertFinds(
        new Trouble.AlikeRoles(
            new RoleKey("keeper"), new RoleKey("warden"), Trouble.Likeness.EQUAL));
    assertThat(
            acts(
                new Trouble.AlikeRoles(
                    new RoleKey("keeper"), new RoleKey("warden"), Trouble.Likeness.EQUAL)))
        .containsExactly(Remedies.Act.MERGE_ROLES);
  }

  @Test
  void aRoleWhoseHoldersAllHoldALargerOne() {
    museum
        .set("looking", "enter", "view")
        .role("visitor", "looking")
        .with(assignment("keepers-visit", group("keepers"), ofRole("visitor"), "vault"));
    assertFinds(
        new Trouble.AlikeRoles(
            new RoleKey("visitor"), new RoleKey("keeper"), Trouble.Likeness.CONTAINED));
  }

  @Test
  void aLargeGroupWithinASmallOne() {
    for (String key : List.of("eli", "fay", "gus", "hal", "ivy")) {
      museum.person(key, "ada").usesAll(key);
    }
    museum
        .group("staff", "eli", "fay", "gus", "hal", "ivy")
        .group("keepers", "cy", "group:staff")
        .with(assignment("di-keeps", person("di"), ofRole("keeper"), "hall"));
    assertFinds(new Trouble.FewBecomeMany(new GroupKey("keepers"), new GroupKey("staff"), 1, 5));
    assertThat(
            acts(new Trouble.FewBecomeMany(new GroupKey("keepers"), new GroupKey("staff"), 1, 5)))
        .containsExactly(Remedies.Act.REMOVE_FROM_GROUP, Remedies.Act.NEST_THE_OTHER_WAY);
    museum.group("keepers", "cy", "di", "group:staff");
    assertFindsNoneOf(Detector.FEW_BECOME_MANY);
  }

  // ---- what somebody could reach ----------------------------------------------------------------

  private void exclusion() {
    museum.with(
        new Exclusion(
            new ExclusionKey("apart"),
            About.NONE,
            null,
            List.of(List.of(new PermissionKey("edit")), List.of(new PermissionKey("smelt"))),
            1,
            Exclusion.Where.RESOURCE,
            List.of()));
    museum.permission("smelt", "object", Permission.Risk.LOW, List.of(), List.of());
  }

  @Test
  void anExclusionThatSomebodyCouldBreakByActivating() {
    exclusion();
    museum.with(
        assignment("cy-smelts", person("cy"), ofPermission("smelt"), "coin")
            .in(Assignment.Mode.JUST_IN_TIME));
    assertFinds(
        new Trouble.ExclusionWithinReach(
            new ExclusionKey("apart"), who("cy"), null, new ResourceKey("coin")));
  }

  @Test
  void anExclusionThatSomebodyCouldBreakForAnother() {
    exclusion();
    museum
        .with(assignment("ben-smelts", person("ben"), ofPermission("smelt"), "coin"))
        .with(
            new Delegation(
                new DelegationKey("ben-away"),
                About.NONE,
                who("ben"),
                who("cy"),
                new Delegation.Limit.All(),
                List.of(EVERYTHING),
                Window.ALWAYS));
    assertFinds(
        new Trouble.ExclusionWithinReach(
            new ExclusionKey("apart"), who("cy"), who("ben"), new ResourceKey("coin")));
    assertThat(museum.found())
        .filteredOn(it -> it.trouble() instanceof Trouble.ExclusionWithinReach)
        .extracting(Detection::people)
        .containsExactly(java.util.Set.of(who("cy"), who("ben")));
  }

  @Test
  void aCriticalPermissionThatSomebodyCouldGiveToThemselves() {
    museum
        .permission("smelt", "object", Permission.Risk.CRITICAL, List.of(), List.of())
        .set("keeping", "enter", "edit", "smelt")
        .with(
            assignment(
                "di-groups", person("di"), ofPermission("mandala.groups.manage"), "account:trust"))
        .group("keepers", "cy");
    assertFinds(
        new Trouble.Escalation(
            who("di"), new PermissionKey("smelt"), new ResourceKey("coin"), 1, true));
  }

  @Test
  void aCriticalPermissionThatOneMayActivateIsNoEscalation() {
    museum
        .permission("smelt", "object", Permission.Risk.CRITICAL, List.of(), List.of())
        .with(
            assignment("cy-smelts", person("cy"), ofPermission("smelt"), "coin")
                .in(Assignment.Mode.JUST_IN_TIME));
    assertThat(museum.found())
        .filteredOn(it -> it.trouble() instanceof Trouble.Escalation)
        .extracting(it -> it.trouble().about())
        .doesNotContain(who("cy"));
  }

  // ---- worse ------------------------------------------------------------------------------------

  @Test
  void aFindingWorsensWithItsRiskOrItsWeight() {
    Permission.Risk high = Permission.Risk.HIGH;
    assertThat(Detection.isWorse(high, 20, high, 20)).isFalse();
    assertThat(Detection.isWorse(high, 20, high, 19)).isTrue();
    assertThat(Detection.isWorse(high, 20, Permission.Risk.MODERATE, 30)).isTrue();
    assertThat(Detection.isWorse(high, 20, Permission.Risk.CRITICAL, 1)).isFalse();
  }

  private static Assignment until(Assignment it, Instant until) {
    return within(it, new Window(null, until));
  }

  private static Assignment within(Assignment it, Window window) {
    return mandala.core.change.Rewritten.window(it, window);
  }
}
