package mandala.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import mandala.core.model.Catalogue;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import org.junit.jupiter.api.Test;

/** A guest membership covers its account, and below it only with sub-accounts (section 2). */
class GuestsSpec {

  private static final Instant MAY = Instant.parse("2026-05-01T00:00:00Z");

  private static final Catalogue MODEL =
      new Sketch()
          .account("home")
          .account("trust")
          .account("museum", "trust", false)
          .account("shop", "museum", false)
          .person("ada", "home")
          .person("bas", "home")
          .guest("ada", "museum", false, null)
          .guest("bas", "museum", true, MAY)
          .catalogue();

  private static boolean isGuest(String who, String account, Instant at) {
    return Guests.isGuest(new PrincipalKey(who), new AccountKey(account), at, MODEL);
  }

  @Test
  void itCoversItsOwnAccount() {
    assertThat(isGuest("ada", "museum", MAY)).isTrue();
  }

  @Test
  void accountsBelowAreCoveredOnlyWithSubAccounts() {
    assertThat(isGuest("ada", "shop", MAY.minusSeconds(1))).isFalse();
    assertThat(isGuest("bas", "shop", MAY.minusSeconds(1))).isTrue();
  }

  @Test
  void accountsAboveAreNotCovered() {
    assertThat(isGuest("bas", "trust", MAY.minusSeconds(1))).isFalse();
  }

  @Test
  void itsEndIsNotPartOfIt() {
    assertThat(isGuest("bas", "museum", MAY.minusSeconds(1))).isTrue();
    assertThat(isGuest("bas", "museum", MAY)).isFalse();
  }

  @Test
  void homeIsNotAGuestMembership() {
    assertThat(isGuest("ada", "home", MAY)).isFalse();
  }
}
