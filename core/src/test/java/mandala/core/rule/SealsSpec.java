package mandala.core.rule;

import static mandala.core.rule.Sketch.only;
import static mandala.core.rule.Sketch.resource;
import static mandala.core.rule.Sketch.tree;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** A seal keeps out what comes from above, and not what is given within (section 4, seals). */
class SealsSpec {

  /** A house with a sealed vault, in it a shelf, on it a sealed box with a letter. */
  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .account("archive", "trust", true)
          .unit("keepers", "archive")
          .place("house", "room", "trust", "")
          .sealedPlace("vault", "trust", "house")
          .place("shelf", "room", "trust", "vault")
          .sealedPlace("box", "trust", "shelf")
          .place("letter", "room", "trust", "box")
          .place("reading-room", "room", "archive", "")
          .collection("favourites", "trust", "shelf")
          .catalogue();

  private static @Nullable String against(Clause clause, String place) {
    ResourceKey seal = Seals.against(clause, resource(place), MODEL);
    return seal == null ? null : seal.value();
  }

  @Test
  void whatIsNamedAboveASealStopsAtIt() {
    assertThat(against(tree("house"), "house")).isNull();
    assertThat(against(tree("house"), "vault")).isEqualTo("vault");
    assertThat(against(tree("house"), "shelf")).isEqualTo("vault");
  }

  @Test
  void theInnermostSealIsNamed() {
    assertThat(against(tree("house"), "letter")).isEqualTo("box");
  }

  @Test
  void namingTheSealedPlaceReachesIntoIt() {
    assertThat(against(tree("vault"), "shelf")).isNull();
    assertThat(against(only("vault"), "vault")).isNull();
    assertThat(against(tree("vault"), "letter")).as("to the next seal").isEqualTo("box");
  }

  @Test
  void namingAPlaceWithinReachesIntoIt() {
    assertThat(against(tree("letter"), "letter")).isNull();
  }

  @Test
  void aCollectionNeverReachesBehindASeal() {
    Clause favourites = Clause.of(new Term.InCollection(new CollectionKey("favourites")));
    assertThat(against(favourites, "shelf")).isEqualTo("vault");
  }

  @Test
  void everythingAndTypesStopAtSeals() {
    assertThat(against(Clause.of(new Term.Everything()), "shelf")).isEqualTo("vault");
    assertThat(against(Clause.of(new Term.OfType(new TypeKey("room"))), "house")).isNull();
  }

  @Test
  void ownersReachWhatIsTheirOwn() {
    assertThat(against(Clause.of(new Term.OwnedBy(Term.Owner.SELF)), "letter")).isNull();
    assertThat(against(Clause.of(new Term.OwnedBy(Term.Owner.TEAM)), "letter")).isEqualTo("box");
  }

  @Test
  void aSealedAccountKeepsOutWhatComesFromAboveIt() {
    assertThat(against(tree("account:trust"), "reading-room")).isEqualTo("account:archive");
    assertThat(against(tree("account:archive"), "reading-room")).isNull();
  }

  @Test
  void theAccountAndItsUnitsNameTheAccountItself() {
    AccountKey archive = new AccountKey("archive");
    assertThat(against(Clause.of(new Term.InAccount(archive)), "reading-room")).isNull();
    assertThat(against(Clause.of(new Term.OwnAccount()), "reading-room")).isNull();
    Clause keepers = Clause.of(new Term.InUnit(new UnitKey("keepers")));
    assertThat(against(keepers, "unit:keepers")).isNull();
  }

  @Test
  void oneTermThatNamesAPlaceIsEnough() {
    Clause both = Clause.of(new Term.Tree(resource("shelf")), new Term.OfType(new TypeKey("room")));
    assertThat(against(both, "shelf")).isNull();
  }

  @Test
  void theDeepestNamedPlaceCounts() {
    Clause both = Clause.of(new Term.Tree(resource("house")), new Term.Only(resource("shelf")));
    assertThat(Seals.named(both, resource("shelf"), MODEL)).isEqualTo(resource("shelf"));
    assertThat(Seals.named(tree("vault"), resource("house"), MODEL)).isNull();
  }

  @Test
  void theNearestSealOverAPlaceIsFound() {
    assertThat(Seals.over(resource("letter"), MODEL)).isEqualTo(resource("box"));
    assertThat(Seals.over(resource("vault"), MODEL)).isEqualTo(resource("vault"));
    assertThat(Seals.over(resource("house"), MODEL)).isNull();
    assertThat(Seals.over(resource("reading-room"), MODEL)).isEqualTo(resource("account:archive"));
  }

  @Test
  void anUnknownPlaceIsRefused() {
    assertThatThrownBy(() -> Seals.over(resource("nowhere"), MODEL))
        .isInstanceOf(IllegalArgumentException.class);
  }
}
