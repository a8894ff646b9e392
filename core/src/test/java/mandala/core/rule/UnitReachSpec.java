package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Objects;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.UnitKey;
import org.junit.jupiter.api.Test;

/** A unit counts as one's own below the one that is, or that is reached (section 4). */
class UnitReachSpec {

  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .unit("care", "trust")
          .unit("paper", "trust", "care")
          .unit("shop", "trust")
          .unit("till", "trust", "shop")
          .person("ada", "trust", "care")
          .reaching("bas", "trust", "care", "shop", Principal.Level.VIEW)
          .reaching("cato", "trust", "care", "shop", Principal.Level.FULL)
          .person("dora", "trust")
          .catalogue();

  private static boolean covers(String who, String unit, boolean viewing) {
    Principal it = MODEL.principals().get(new PrincipalKey(who));
    return UnitReach.covers(Objects.requireNonNull(it), new UnitKey(unit), viewing, MODEL);
  }

  @Test
  void onesOwnUnitAndThoseBelowAre() {
    assertThat(covers("ada", "care", false)).isTrue();
    assertThat(covers("ada", "paper", false)).isTrue();
  }

  @Test
  void otherUnitsAreNot() {
    assertThat(covers("ada", "shop", true)).isFalse();
  }

  @Test
  void whatIsReachedInFullIs() {
    assertThat(covers("cato", "shop", false)).isTrue();
    assertThat(covers("cato", "till", false)).isTrue();
  }

  @Test
  void whatIsReachedForViewingIsForViewingOnly() {
    assertThat(covers("bas", "till", true)).isTrue();
    assertThat(covers("bas", "till", false)).isFalse();
  }

  @Test
  void aReachDoesNotTakeAwayOnesOwn() {
    assertThat(covers("bas", "paper", false)).isTrue();
  }

  @Test
  void whoHasNoUnitHasNone() {
    assertThat(covers("dora", "care", true)).isFalse();
  }
}
