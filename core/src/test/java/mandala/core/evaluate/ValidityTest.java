package mandala.core.evaluate;

import static org.assertj.core.api.Assertions.assertThat;

import mandala.core.compiled.directory.TimeSpan;
import org.junit.jupiter.api.Test;

/** Until when an answer holds, from the windows that it looked at. */
class ValidityTest {

  private static final TimeSpan WINTER = new TimeSpan(10, 20);

  @Test
  void narrowsToTheWindowThatHolds() {
    Validity validity = new Validity(12);
    assertThat(validity.holds(WINTER)).isTrue();
    assertThat(validity.holds(new TimeSpan(Long.MIN_VALUE, 15))).isTrue();
    assertThat(validity.span()).isEqualTo(new TimeSpan(10, 15));
  }

  @Test
  void endsWhereALaterWindowBegins() {
    Validity validity = new Validity(3);
    assertThat(validity.holds(WINTER)).isFalse();
    assertThat(validity.span()).isEqualTo(new TimeSpan(Long.MIN_VALUE, 10));
  }

  @Test
  void beginsWhereAnEarlierWindowEnded() {
    Validity validity = new Validity(20);
    assertThat(validity.holds(WINTER)).isFalse();
    assertThat(validity.span()).isEqualTo(new TimeSpan(20, Long.MAX_VALUE));
  }
}
