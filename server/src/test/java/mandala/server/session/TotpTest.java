package mandala.server.session;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.OptionalLong;
import org.apache.commons.codec.binary.Base32;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Codes are those of RFC 6238, appendix B, for SHA-1: the last six digits of its eight. */
class TotpTest {

  private static final String SECRET =
      new Base32().encodeToString("12345678901234567890".getBytes(StandardCharsets.US_ASCII));

  private static final Instant NOW = Instant.ofEpochSecond(1_111_111_111);

  @ParameterizedTest(name = "at {0} s: {1}")
  @CsvSource({
    "59, 287082",
    "1111111109, 081804",
    "1111111111, 050471",
    "1234567890, 005924",
    "2000000000, 279037",
    "20000000000, 353130"
  })
  void codesAreThoseOfTheStandard(long seconds, String code) {
    assertThat(Totp.code(SECRET, Instant.ofEpochSecond(seconds))).isEqualTo(code);
  }

  @Test
  void aCodeTellsItsStepWithinOneStepOfNow() {
    long step = NOW.getEpochSecond() / Totp.STEP_SECONDS;
    for (int drift = -1; drift <= 1; drift++) {
      String code = Totp.code(SECRET, NOW.plusSeconds(drift * 30L));
      assertThat(Totp.step(SECRET, code, NOW)).hasValue(step + drift);
    }
  }

  @Test
  void aCodeOfTwoStepsAgoIsNone() {
    String old = Totp.code(SECRET, NOW.minusSeconds(60));
    assertThat(Totp.step(SECRET, old, NOW)).isEqualTo(OptionalLong.empty());
  }

  @Test
  void spacesAroundACodeDoNotMatter() {
    assertThat(Totp.step(SECRET, " " + Totp.code(SECRET, NOW) + " ", NOW)).isPresent();
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "ABC", "not base 32 at all, and long", "JBSWY3DPEHPK3PXP1"})
  void whatIsNoSecretIsRefused(String text) {
    assertThat(Totp.isSecret(text)).isFalse();
  }

  @Test
  void aNewSecretIsOneAndNeverTheSame() {
    assertThat(Totp.isSecret(Totp.newSecret())).isTrue();
    assertThat(Totp.newSecret()).isNotEqualTo(Totp.newSecret());
  }
}
