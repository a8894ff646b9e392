package mandala.core.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mandala.core.RandomChanges;
import mandala.core.Somebody;
import mandala.core.change.Change;
import mandala.core.change.ModelDifference;
import mandala.core.change.Rewritten;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.junit.jupiter.api.Test;

/** What happens in a small museum, and what a review is asked about it. */
class OccasionsSpec extends Museum {

  /** The museum with some of its things replaced by others of their key. */
  private static AccessModel with(AccessModel of, Thing... others) {
    AccessModel.Builder builder = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      for (Thing it : of.things(kind)) {
        boolean replaced = false;
        for (Thing other : others) {
          if (other.getClass() == it.getClass()
              && it.key() != null
              && it.key().equals(other.key())) {
            replaced = true;
          }
        }
        if (!replaced) {
          builder.add(it);
        }
      }
    }
    List.of(others).forEach(builder::add);
    return builder.build();
  }

  private static Occasions between(AccessModel was, AccessModel is) {
    Engine before = Engine.of(was);
    Engine after = Engine.of(is);
    List<Change> changes = ModelDifference.between(was, is);
    return new Occasions(before.catalogue(), ReviewItems.of(after, AT), changes);
  }

  private static Principal ada(AccessModel of) {
    return of.principals().stream().filter(it -> it.key().equals(ADA)).findFirst().orElseThrow();
  }

  private static Principal titled(Principal it, String title, boolean managed) {
    return Rewritten.facts(
        it, it.unit(), managed ? it.manager() : null, Map.of("craft", "paint", "title", title));
  }

  @Test
  void whoMovesIsAskedAboutAllThatTheyHave() {
    AccessModel was = gives("shop", person(ADA), "visitor", "shop").model.build();
    Principal ada = ada(was);
    assertThat(ids(between(was, with(was, titled(ada, "Restorer", true))).moved()))
        .as("another title")
        .containsExactly("assignment shop", "by-rule painters ada", "member keepers ada");
    assertThat(between(was, with(was, titled(ada, "Restorer", false))).moved())
        .as("another manager")
        .hasSize(3);
    AccessModel titled = with(was, titled(ada, "Restorer", true));
    assertThat(between(titled, with(titled, suspended(titled))).moved())
        .as("the same place, suspended")
        .isEmpty();
    assertThat(between(titled, was).given()).as("a move gives nothing by itself").isEmpty();
  }

  @Test
  void whoCameAndWentMeanwhileIsNotAskedAbout() {
    Engine same = Engine.of(model.build());
    Principal ada = ada(same.catalogue().model());
    PrincipalKey zed = new PrincipalKey("zed");
    Principal came = Somebody.at(ada.account(), zed);
    Guest guest = new Guest(About.NONE, zed, ada.account(), false, ada.window(), null);
    List<Change> changes =
        List.of(
            new Change.Added(came),
            new Change.Added(guest),
            new Change.Removed(guest),
            new Change.Removed(came));
    Occasions none = new Occasions(same.catalogue(), ReviewItems.of(same, AT), changes);
    assertThat(none.given()).isEmpty();
    assertThat(none.moved()).isEmpty();
  }

  private static Principal suspended(AccessModel of) {
    return RandomChanges.suspended(ada(of));
  }

  @Test
  void aRoleIsWidenedByItsOwnSets() {
    AccessModel was = model.build();
    PermissionSet entering =
        new PermissionSet(
            new PermissionSetKey("entering"),
            About.NONE,
            null,
            List.of(new PermissionKey("enter"), new PermissionKey("open")),
            List.of(),
            List.of());
    AccessModel is = with(was, entering);
    assertThat(ids(between(was, is).widened())).containsExactly("role visitor open");
    assertThat(between(is, was).widened()).as("the other way it is narrowed").isEmpty();
    assertThat(between(was, is).given()).isEmpty();
  }

  @Test
  void whatComesIsGivenAndWhatNarrowsIsNot() {
    AccessModel was = gives("shop", person(ADA), "visitor", "shop").model.build();
    Assignment shop = was.assignments().getFirst();
    Assignment everywhere = at(shop, Window.ALWAYS, new Term.Everything());
    AccessModel wide = with(was, everywhere);
    assertThat(ids(between(was, wide).given())).containsExactly("assignment shop");
    assertThat(between(wide, was).given()).as("narrower").isEmpty();
    Assignment ends = at(shop, new Window(null, AT.plus(Duration.ofDays(3))), tree("shop"));
    assertThat(between(was, with(was, ends)).given()).as("it ends").isEmpty();
    assertThat(ids(between(with(was, ends), was).given()))
        .as("it ends no longer")
        .containsExactly("assignment shop");
    assertThat(ids(between(without(was, shop), was).given())).containsExactly("assignment shop");
    assertThat(between(was, without(was, shop)).given()).isEmpty();
  }

  private static Term tree(String place) {
    return new Term.Tree(new ResourceKey(place));
  }

  private static Assignment at(Assignment it, Window window, Term... terms) {
    return new Assignment(
        it.key(),
        it.about(),
        it.subject(),
        it.gives(),
        it.effect(),
        List.of(Clause.of(terms)),
        it.viewScope(),
        window,
        it.mode(),
        it.crossesSeals());
  }

  private static AccessModel without(AccessModel of, Thing gone) {
    AccessModel.Builder builder = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      of.things(kind).stream().filter(it -> !it.equals(gone)).forEach(builder::add);
    }
    return builder.build();
  }

  /** Who names a sealed room reaches into it; who names all that is above does not. */
  @Test
  void aNarrowerScopeThatReachesBehindASealIsGiven() {
    AccessModel open = gives("all", person(ADA), "visitor", "shop").model.build();
    Resource vault =
        open.resources().stream()
            .filter(it -> it.key().value().equals("vault"))
            .findFirst()
            .orElseThrow();
    Resource sealed =
        new Resource(
            vault.key(),
            vault.about(),
            vault.type(),
            vault.account(),
            vault.parent(),
            vault.owner(),
            vault.unit(),
            vault.labels(),
            true);
    Assignment all = at(open.assignments().getFirst(), Window.ALWAYS, new Term.Everything());
    Assignment vaultOnly = at(all, Window.ALWAYS, new Term.Everything(), tree("vault"));
    AccessModel was = with(open, sealed, all);
    assertThat(ids(between(was, with(was, vaultOnly)).given())).containsExactly("assignment all");
    AccessModel unsealed = with(open, all);
    assertThat(between(unsealed, with(unsealed, vaultOnly)).given()).isEmpty();
  }

  @Test
  void membersRulesAndCrossAccountAccessAreGiven() {
    model.add(Account.root("harbour"));
    AccessModel was = model.build();
    Group keepers = was.groups().getFirst();
    Group more =
        new Group(
            keepers.key(),
            keepers.about(),
            keepers.account(),
            false,
            List.of(ADA_LISTED, new Group.Member.OfPrincipal(Principal.Kind.PERSON, BAS)),
            was.groups().getLast().rule(),
            keepers.owners());
    AccessModel is = with(was, more, guest(AT.plus(Duration.ofDays(9))));
    assertThat(ids(between(was, is).given()))
        .containsExactly("guest harbour ada", "member keepers bas", "rule keepers");
    assertThat(between(is, was).given()).isEmpty();
  }

  private static Guest guest(Instant until) {
    return new Guest(
        About.NONE, ADA, new AccountKey("harbour"), true, new Window(null, until), null);
  }

  @Test
  void guestMembershipsThatEndSoonAreFound() {
    model.add(Account.root("harbour"));
    model.add(guest(AT.plus(Duration.ofDays(9))));
    Engine engine = engine();
    assertThat(ids(Occasions.ending(engine.catalogue(), AT, Duration.ofDays(10))))
        .containsExactly("guest harbour ada");
    assertThat(Occasions.ending(engine.catalogue(), AT, Duration.ofDays(8))).isEmpty();
    assertThat(
            Occasions.ending(engine.catalogue(), AT.plus(Duration.ofDays(9)), Duration.ofDays(8)))
        .as("over")
        .isEmpty();
  }

  @Test
  void ofARuleTheRiskIsThatOfWhatItGives() {
    gives("vault", group(PAINTERS), "keyholder", "vault");
    ReviewItems items = ReviewItems.of(engine(), AT);
    assertThat(items.of(ADA))
        .filteredOn(it -> it.id().equals("by-rule painters ada"))
        .singleElement()
        .satisfies(it -> assertThat(items.risk(it)).isEqualTo(Permission.Risk.CRITICAL));
  }
}
