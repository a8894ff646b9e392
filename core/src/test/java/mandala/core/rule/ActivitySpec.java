package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Principal;
import mandala.core.model.Window;
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
    return Activity.isActive(MODEL.principals().get(new Key.Principal(who)), at, MODEL);
  }

  @Test
  void anAccountBelowASuspendedOneIsNotLive() {
    assertThat(Activity.isLive(new Key.Account("shop"), MODEL)).isFalse();
    assertThat(Activity.suspended(new Key.Account("shop"), MODEL))
        .extracting(it -> it.key().value())
        .containsExactly("mill");
  }

  @Test
  void anAccountAboveASuspendedOneIs() {
    assertThat(Activity.isLive(new Key.Account("trust"), MODEL)).isTrue();
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
