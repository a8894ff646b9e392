package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.Objects;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import org.junit.jupiter.api.Test;

/** One belongs to one's home, to accounts below it, and where one is a guest (section 2). */
class MembershipSpec {

  private static final Instant MAY = Instant.parse("2026-05-01T00:00:00Z");

  private static final Catalogue MODEL =
      new Sketch()
          .account("trust")
          .account("museum", "trust", false)
          .account("shop", "museum", false)
          .account("gallery", "trust", false)
          .person("ada", "museum")
          .guest("ada", "gallery", false, MAY)
          .catalogue();

  private static boolean belongs(String account, Instant at) {
    Principal ada = MODEL.principals().get(new PrincipalKey("ada"));
    return Membership.belongs(Objects.requireNonNull(ada), new AccountKey(account), at, MODEL);
  }

  @Test
  void homeAndAccountsBelowIt() {
    assertThat(belongs("museum", MAY)).isTrue();
    assertThat(belongs("shop", MAY)).isTrue();
  }

  @Test
  void notTheAccountAboveHome() {
    assertThat(belongs("trust", MAY)).isFalse();
  }

  @Test
  void whereOneIsAGuestForAsLong() {
    assertThat(belongs("gallery", MAY.minusSeconds(1))).isTrue();
    assertThat(belongs("gallery", MAY)).isFalse();
  }
}
