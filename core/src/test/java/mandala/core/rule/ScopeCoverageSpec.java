package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import java.util.Map;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import org.junit.jupiter.api.Test;

/**
 * A clause covers what each of its terms covers, a scope what one of its clauses does (section 4).
 */
class ScopeCoverageSpec {

  /** The vault is Ada's, of the unit care, and green; Bas is her manager, Cato is his. */
  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .account("branch", "trust", false)
          .unit("care", "trust")
          .unit("paper", "trust", "care")
          .person("cato", "trust")
          .report("bas", "trust", "cato")
          .report("ada", "trust", "bas")
          .person("eve", "branch")
          .person("dora", "trust", "care")
          .place("vault", "trust", "ada", "paper", "green")
          .place("chest", "object", "trust", "vault")
          .place("attic", "room", "trust", "")
          .place("shed", "room", "branch", "")
          .collection("best", "trust", "vault")
          .group("lenders", "branch")
          .catalogue();

  private static boolean covers(String who, String place, Term... terms) {
    Principal principal = MODEL.principals().get(new PrincipalKey(who));
    return ScopeCoverage.of(Sketch.resource(place), principal, MODEL).covers(Clause.of(terms));
  }

  private static boolean mightCover(String place, Term term) {
    return ScopeCoverage.ofAnybody(Sketch.resource(place), MODEL).covers(term);
  }

  private static final Term TREE = new Term.Tree(Sketch.resource("vault"));
  private static final Term MINE = new Term.OwnedBy(Term.Owner.SELF);
  private static final Term TEAM = new Term.OwnedBy(Term.Owner.TEAM);
  private static final Term NOBODYS = new Term.OwnedBy(Term.Owner.NONE);
  private static final Term GREEN = new Term.Labelled(Map.of("colour", "green"));

  @Test
  void aTreeCoversItsTopAndWhatIsBelow() {
    assertThat(covers("ada", "vault", TREE)).isTrue();
    assertThat(covers("ada", "chest", TREE)).isTrue();
    assertThat(covers("ada", "attic", TREE)).isFalse();
  }

  @Test
  void onlyCoversOneResource() {
    Term only = new Term.Only(Sketch.resource("vault"));
    assertThat(covers("ada", "vault", only)).isTrue();
    assertThat(covers("ada", "chest", only)).isFalse();
  }

  @Test
  void aCollectionCoversWhatIsBelowItsMembers() {
    Term best = new Term.InCollection(new CollectionKey("best"));
    assertThat(covers("ada", "chest", best)).isTrue();
    assertThat(covers("ada", "attic", best)).isFalse();
  }

  @Test
  void anAccountCoversItsOwnResourcesOnly() {
    Term account = new Term.InAccount(new AccountKey("trust"));
    assertThat(covers("ada", "attic", account)).isTrue();
    assertThat(covers("ada", "shed", account)).isFalse();
  }

  @Test
  void aUnitCoversResourcesOfUnitsBelowIt() {
    assertThat(covers("ada", "vault", new Term.InUnit(new UnitKey("care")))).isTrue();
    assertThat(covers("ada", "attic", new Term.InUnit(new UnitKey("care")))).isFalse();
  }

  @Test
  void unitAndLabelsAreInheritedFromAbove() {
    assertThat(covers("ada", "chest", GREEN)).isTrue();
    assertThat(covers("ada", "chest", new Term.InUnit(new UnitKey("paper")))).isTrue();
  }

  @Test
  void aTypeCoversResourcesOfIt() {
    assertThat(covers("ada", "chest", new Term.OfType(new TypeKey("object")))).isTrue();
    assertThat(covers("ada", "vault", new Term.OfType(new TypeKey("object")))).isFalse();
  }

  @Test
  void ownAccountIsTheHome() {
    assertThat(covers("eve", "shed", new Term.OwnAccount())).isTrue();
    assertThat(covers("ada", "shed", new Term.OwnAccount())).isFalse();
  }

  @Test
  void ownUnitIsTheUnitAndThoseBelow() {
    assertThat(covers("dora", "vault", new Term.OwnUnit())).isTrue();
    assertThat(covers("ada", "vault", new Term.OwnUnit())).isFalse();
  }

  @Test
  void anOwnerIsOfOneResourceOnly() {
    assertThat(covers("ada", "chest", MINE)).isFalse();
    assertThat(covers("ada", "chest", NOBODYS)).isTrue();
  }

  @Test
  void myOwnIsNotMyManagers() {
    assertThat(covers("ada", "vault", MINE)).isTrue();
    assertThat(covers("bas", "vault", MINE)).isFalse();
  }

  @Test
  void myTeamIsMeAndAllWhoReportToMe() {
    assertThat(covers("ada", "vault", TEAM)).isTrue();
    assertThat(covers("cato", "vault", TEAM)).isTrue();
    assertThat(covers("dora", "vault", TEAM)).isFalse();
  }

  @Test
  void nobodysIsWhatHasNoOwner() {
    assertThat(covers("ada", "attic", NOBODYS)).isTrue();
    assertThat(covers("ada", "vault", NOBODYS)).isFalse();
  }

  @Test
  void eachTermOfAClauseMustCover() {
    assertThat(covers("ada", "chest", TREE, GREEN)).isTrue();
    assertThat(covers("ada", "vault", TREE, NOBODYS)).isFalse();
  }

  @Test
  void oneClauseOfAScopeIsEnough() {
    ScopeCoverage attic = ScopeCoverage.of(Sketch.resource("attic"), null, MODEL);
    assertThat(attic.covers(List.of(Clause.of(TREE), Clause.of(NOBODYS)))).isTrue();
    assertThat(attic.covers(List.of(Clause.of(TREE)))).isFalse();
  }

  @Test
  void relativeTermsCoverNothingForWhoIsNotSignedIn() {
    ScopeCoverage vault = ScopeCoverage.of(Sketch.resource("vault"), null, MODEL);
    for (Term term : List.of(MINE, TEAM, new Term.OwnUnit(), new Term.OwnAccount())) {
      assertThat(vault.covers(term)).as(term.toString()).isFalse();
    }
  }

  @Test
  void forAnybodyRelativeTermsCoverWhereTheyMight() {
    assertThat(mightCover("vault", MINE)).isTrue();
    assertThat(mightCover("vault", NOBODYS)).isFalse();
    assertThat(mightCover("attic", MINE)).isFalse();
    assertThat(mightCover("attic", new Term.OwnAccount())).isTrue();
  }

  @Test
  void relativeTermsOfAGroupStayInItsAccount() {
    Subject group = new Subject.OfGroup(new GroupKey("lenders"));
    assertThat(ScopeCoverage.homeOf(group, MODEL)).isEqualTo(new AccountKey("branch"));
    assertThat(ScopeCoverage.homeOf(Subject.Public.SIGNED_IN, MODEL)).isNull();
  }
}
