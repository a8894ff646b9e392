package mandala.core.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Exclusion;
import mandala.core.model.Permission;
import mandala.core.model.Subject;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Session;
import org.assertj.core.api.InstanceOfAssertFactories;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** What a small museum has to review, and what each of it takes. */
class ReviewItemsSpec extends Museum {

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
