package mandala.core.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Exclusion;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Rule;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.question.Session;
import org.assertj.core.api.InstanceOfAssertFactories;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** A small museum: two rooms, a role, a group with a list and one with a rule. */
class ReviewItemsSpec {

  private static final Instant AT = Instant.parse("2026-12-01T00:00:00Z");
  private static final AccountKey HOME = new AccountKey("museum");
  private static final PrincipalKey ADA = new PrincipalKey("ada");
  private static final PrincipalKey BAS = new PrincipalKey("bas");
  private static final GroupKey KEEPERS = new GroupKey("keepers");
  private static final GroupKey PAINTERS = new GroupKey("painters");
  private static final Group.Member ADA_LISTED =
      new Group.Member.OfPrincipal(Principal.Kind.PERSON, ADA);

  private final AccessModel.Builder model = AccessModel.builder();

  ReviewItemsSpec() {
    model.add(Account.root("museum"));
    model.add(new ResourceType(new TypeKey("room"), About.NONE, null));
    room("vault");
    room("shop");
    permission("enter", Permission.Risk.LOW);
    permission("open", Permission.Risk.CRITICAL);
    set("entering", "enter");
    set("opening", "open", "enter");
    role("visitor", "entering");
    role("keyholder", "opening");
    person(ADA, BAS, Map.of("craft", "paint"));
    person(BAS, null, Map.of());
    model.add(new Group(KEEPERS, About.NONE, HOME, false, List.of(ADA_LISTED), null, List.of(BAS)));
    model.add(
        new Group(
            PAINTERS,
            About.NONE,
            HOME,
            false,
            List.of(),
            new Rule(Rule.Match.ALL, List.of(new Rule.Test("craft", Rule.Op.IS, List.of("paint")))),
            List.of()));
  }

  private void room(String key) {
    model.add(
        new Resource(
            new ResourceKey(key),
            About.NONE,
            new TypeKey("room"),
            HOME,
            null,
            key.equals("vault") ? BAS : null,
            null,
            Map.of(),
            false));
  }

  private void permission(String key, Permission.Risk risk) {
    model.add(
        new Permission(
            new PermissionKey(key),
            About.NONE,
            null,
            List.of(new TypeKey("room")),
            Permission.AccessClass.CHANGE,
            risk,
            List.of(),
            List.of(),
            null));
  }

  private void set(String key, String... allow) {
    model.add(
        new PermissionSet(
            new PermissionSetKey(key),
            About.NONE,
            null,
            Arrays.stream(allow).map(PermissionKey::new).toList(),
            List.of(),
            List.of()));
  }

  private void role(String key, String set) {
    model.add(
        new Role(
            new RoleKey(key),
            About.NONE,
            null,
            null,
            null,
            false,
            List.of(new PermissionSetKey(set)),
            List.of(),
            false,
            List.of(),
            null,
            null,
            List.of()));
  }

  private void person(
      PrincipalKey key, @Nullable PrincipalKey manager, Map<String, String> attributes) {
    model.add(
        new Principal(
            key,
            About.NONE,
            Principal.Kind.PERSON,
            HOME,
            null,
            manager,
            Principal.Status.ACTIVE,
            Window.ALWAYS,
            false,
            attributes,
            null,
            List.of(),
            null,
            null,
            null));
  }

  private static Subject group(GroupKey key) {
    return new Subject.OfGroup(key);
  }

  private static Subject person(PrincipalKey key) {
    return new Subject.OfPrincipal(Principal.Kind.PERSON, key);
  }

  private ReviewItemsSpec gives(String key, Subject to, String role, String place) {
    return gives(key, to, role, place, Assignment.Mode.STANDING);
  }

  private ReviewItemsSpec gives(
      String key, Subject to, String role, String place, Assignment.Mode mode) {
    model.add(
        new Assignment(
            new AssignmentKey(key),
            About.NONE,
            to,
            new Gives.OfRole(new RoleKey(role)),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Tree(new ResourceKey(place)))),
            List.of(),
            Window.ALWAYS,
            mode,
            false));
    return this;
  }

  private Engine engine() {
    return Engine.of(model.build());
  }

  private static List<String> ids(List<ReviewItem> items) {
    return items.stream().map(ReviewItem::id).toList();
  }

  private static ReviewScope people(Permission.Risk least, @Nullable ResourceKey place) {
    return new ReviewScope(Set.of(ReviewScope.Content.PEOPLE), Set.of(), place, least);
  }

  private ItemEffect effect(Engine engine, ReviewItem item) {
    return new ItemStudy(engine, ReviewItems.of(engine, AT), AT).effect(item).orElseThrow();
  }

  @Test
  void whatAPersonHasIsWhatCouldBeRemoved() {
    gives("own", person(ADA), "visitor", "shop");
    assertThat(ids(ReviewItems.of(engine(), AT).of(ADA)))
        .containsExactly("member keepers ada", "by-rule painters ada", "assignment own");
  }

  @Test
  void ofHighAndCriticalOnlyWhatMayGiveThat() {
    gives("own", person(ADA), "visitor", "shop");
    gives("of-keepers", group(KEEPERS), "keyholder", "vault");
    assertThat(ids(ReviewItems.of(engine(), AT).in(people(Permission.Risk.HIGH, null))))
        .containsExactly("member keepers ada");
  }

  @Test
  void ofAPlaceOnlyWhatGivesSomethingThere() {
    gives("own", person(ADA), "visitor", "shop");
    gives("of-keepers", group(KEEPERS), "keyholder", "vault");
    ReviewScope shop = people(Permission.Risk.LOW, new ResourceKey("shop"));
    assertThat(ids(ReviewItems.of(engine(), AT).in(shop))).containsExactly("assignment own");
  }

  @Test
  void ofGroupsRolesAndOwners() {
    gives("of-keepers", group(KEEPERS), "keyholder", "vault");
    gives("of-painters", group(PAINTERS), "visitor", "shop");
    ReviewScope scope =
        new ReviewScope(
            Set.of(
                ReviewScope.Content.GROUPS, ReviewScope.Content.ROLES, ReviewScope.Content.OWNERS),
            Set.of(),
            null,
            Permission.Risk.LOW);
    assertThat(ids(ReviewItems.of(engine(), AT).in(scope)))
        .containsExactlyInAnyOrder(
            "assignment of-keepers",
            "assignment of-painters",
            "rule painters",
            "role keyholder enter",
            "role keyholder open",
            "role visitor enter",
            "owner keepers bas",
            "owner vault bas");
  }

  @Test
  void ofWhoIsExemptAsLongAsTheyAre() {
    model.add(
        new Exclusion(
            new ExclusionKey("both"),
            About.NONE,
            null,
            List.of(List.of(new PermissionKey("enter")), List.of(new PermissionKey("open"))),
            1,
            Exclusion.Where.RESOURCE,
            List.of(
                new Exclusion.Exemption(ADA, null, "until the move"),
                new Exclusion.Exemption(BAS, AT, "over"))));
    Engine engine = engine();
    ReviewScope scope =
        new ReviewScope(
            Set.of(ReviewScope.Content.EXEMPTIONS), Set.of(), null, Permission.Risk.CRITICAL);
    List<ReviewItem> found = ReviewItems.of(engine, AT).in(scope);
    assertThat(ids(found)).containsExactly("exempt both ada");
    Engine after = engine.after(found.getFirst().removal().in(engine.catalogue()));
    assertThat(after.catalogue().exclusions().get(new ExclusionKey("both")))
        .extracting(Exclusion::exempt)
        .asInstanceOf(InstanceOfAssertFactories.LIST)
        .hasSize(1);
  }

  @Test
  void whatIsActivatedCountsOrItsRemovalWouldSeemToTakeNothing() {
    gives("own", person(ADA), "keyholder", "vault", Assignment.Mode.JUST_IN_TIME);
    ReviewItem own = new ReviewItem(new Removal.Unassign(new AssignmentKey("own")), ADA);
    ItemEffect effect = effect(engine(), own);
    assertThat(effect.takes()).isEqualTo(2);
    assertThat(effect.activated()).isTrue();
    assertThat(effect.risk()).contains(Permission.Risk.CRITICAL);
  }

  @Test
  void whoLosesTheAttributeLeavesTheGroupOfItsRule() {
    gives("of-painters", group(PAINTERS), "visitor", "shop");
    ReviewItem rule = new ReviewItem(new Removal.LoseAttribute(PAINTERS, ADA), ADA);
    assertThat(effect(engine(), rule).takes()).isEqualTo(1);
  }

  @Test
  void aRemovalThatAnotherRouteDefeatsOffersTheSetThatDoes() {
    gives("own", person(ADA), "visitor", "shop");
    gives("of-keepers", group(KEEPERS), "visitor", "shop");
    gives("of-painters", group(PAINTERS), "visitor", "shop");
    Engine engine = engine();
    ReviewItems items = ReviewItems.of(engine, AT);
    ItemStudy study = new ItemStudy(engine, items, AT);
    ReviewItem member = new ReviewItem(new Removal.Leave(KEEPERS, ADA_LISTED), ADA);
    ItemEffect effect = study.effect(member).orElseThrow();
    assertThat(effect.takes()).isZero();
    var staying = study.staying(member, effect);
    assertThat(staying.rights()).isEqualTo(1);
    assertThat(ids(study.sufficient(member, effect, staying)))
        .containsExactlyInAnyOrder("by-rule painters ada", "assignment own");
  }

  @Test
  void whatEverybodyHasNobodysRemovalEnds() {
    gives("own", person(ADA), "visitor", "shop");
    gives("all", new Subject.OfAccount(HOME), "visitor", "shop");
    Engine engine = engine();
    ItemStudy study = new ItemStudy(engine, ReviewItems.of(engine, AT), AT);
    ReviewItem own = new ReviewItem(new Removal.Unassign(new AssignmentKey("own")), ADA);
    ItemEffect effect = study.effect(own).orElseThrow();
    assertThat(effect.takes()).isZero();
    assertThat(study.sufficient(own, effect, study.staying(own, effect))).isEmpty();
  }

  @Test
  void aPermissionGoesOutOfOneRoleOnly() {
    role("second", "opening");
    gives("one", person(ADA), "keyholder", "vault");
    gives("two", person(BAS), "second", "vault");
    Engine engine = engine();
    Removal out = new Removal.TakeFromRole(new RoleKey("keyholder"), new PermissionKey("open"));
    Engine after = engine.after(ItemStudy.changes(engine.catalogue(), List.of(out)));
    var session = new Session(ADA, AT, true, null);
    assertThat(after.rights(session)).isEqualTo(1);
    assertThat(after.rights(new Session(BAS, AT, true, null))).isEqualTo(2);
  }

  @Test
  void factsChangeWithWhatIsAssignedAndNotWithOtherThings() {
    gives("own", person(ADA), "visitor", "shop");
    ReviewItem own = new ReviewItem(new Removal.Unassign(new AssignmentKey("own")), ADA);
    ReviewItem member = new ReviewItem(new Removal.Leave(KEEPERS, ADA_LISTED), ADA);
    ReviewItems before = ReviewItems.of(engine(), AT);
    gives("of-keepers", group(KEEPERS), "keyholder", "vault");
    ReviewItems after = ReviewItems.of(engine(), AT);
    assertThat(own.facts(after)).isEqualTo(own.facts(before));
    assertThat(member.facts(after)).isNotEqualTo(member.facts(before));
  }

  @Test
  void theOwnerOfThePlaceDecidesAndTheManagerWhereThereIsNone() {
    gives("vault", person(ADA), "keyholder", "vault");
    gives("shop", person(ADA), "visitor", "shop");
    Engine engine = engine();
    Deciders deciders = new Deciders(engine, ReviewItems.of(engine, AT), AT);
    List<Deciders.By> order = List.of(new Deciders.By.PlaceOwner(), new Deciders.By.Manager());
    for (String key : List.of("vault", "shop")) {
      ReviewItem it = new ReviewItem(new Removal.Unassign(new AssignmentKey(key)), ADA);
      Deciders.Chosen chosen =
          deciders.of(it, order, _ -> Optional.empty(), _ -> false).orElseThrow();
      assertThat(chosen.who()).isEqualTo(BAS);
      assertThat(chosen.by())
          .isEqualTo(
              key.equals("vault") ? new Deciders.By.PlaceOwner() : new Deciders.By.Manager());
      assertThat(deciders.of(it, order, _ -> Optional.of(ADA), _ -> false))
          .as("a deputy who is the subject")
          .isEmpty();
    }
  }

  @Test
  void whoReportsToNobodyHasNoDeciderWithoutAnother() {
    gives("own", person(BAS), "visitor", "shop");
    Engine engine = engine();
    Deciders deciders = new Deciders(engine, ReviewItems.of(engine, AT), AT);
    ReviewItem own = new ReviewItem(new Removal.Unassign(new AssignmentKey("own")), BAS);
    List<Deciders.By> manager = List.of(new Deciders.By.Manager());
    assertThat(deciders.of(own, manager, _ -> Optional.empty(), _ -> false)).isEmpty();
    List<Deciders.By> named = List.of(new Deciders.By.Manager(), new Deciders.By.Named(ADA));
    assertThat(deciders.of(own, named, _ -> Optional.empty(), _ -> false))
        .map(Deciders.Chosen::who)
        .contains(ADA);
  }
}
