package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Objects;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import org.junit.jupiter.api.Test;

/**
 * An account is live where none above is suspended; who is active lives in one (sections 1 and 2).
 */
class ActivitySpec {

  private static final Instant MAY = Instant.parse("2026-05-01T00:00:00Z");

  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .suspendedAccount("mill", "trust")
          .account("shop", "mill", false)
          .person("ada", "trust", Principal.Status.ACTIVE, new Window(null, MAY))
          .person("bas", "trust", Principal.Status.SUSPENDED, Window.ALWAYS)
          .person("cato", "shop", Principal.Status.ACTIVE, Window.ALWAYS)
          .person("dora", "trust", Principal.Status.INVITED, Window.ALWAYS)
          .catalogue();

  private static boolean isActive(String who, Instant at) {
    return Activity.isActive(
        Objects.requireNonNull(MODEL.principals().get(new PrincipalKey(who))), at, MODEL);
  }

  @Test
  void anAccountBelowASuspendedOneIsNotLive() {
    assertThat(Activity.isLive(new AccountKey("shop"), MODEL)).isFalse();
    assertThat(Activity.suspended(new AccountKey("shop"), MODEL))
        .extracting(it -> it.key().value())
        .containsExactly("mill");
  }

  @Test
  void anAccountAboveASuspendedOneIs() {
    assertThat(Activity.isLive(new AccountKey("trust"), MODEL)).isTrue();
  }

  @Test
  void somebodyIsActiveInTheirWindow() {
    assertThat(isActive("ada", MAY.minusSeconds(1))).isTrue();
    assertThat(isActive("ada", MAY)).isFalse();
  }

  @Test
  void theSuspendedAndTheInvitedAreNot() {
    assertThat(isActive("bas", MAY)).isFalse();
    assertThat(isActive("dora", MAY)).isFalse();
  }

  @Test
  void whoseHomeIsNotLiveIsNot() {
    assertThat(isActive("cato", MAY)).isFalse();
  }
}
