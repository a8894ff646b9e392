package mandala.server.platform;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** The pause doubles from the first to the longest, and stays there. */
class BackOffTest {

  @ParameterizedTest
  @CsvSource({
    "0, 30",
    "1, 30",
    "2, 60",
    "4, 240",
    "7, 1920",
    "8, 3600",
    "60, 3600",
    "100000, 3600"
  })
  void thePauseDoublesUpToTheLongest(int failures, long seconds) {
    BackOff backOff = new BackOff(Duration.ofSeconds(30), Duration.ofHours(1));
    assertThat(backOff.after(failures)).isEqualTo(Duration.ofSeconds(seconds));
  }

  @ParameterizedTest
  @CsvSource({"1, 200", "2, 400", "5, 3200", "60, 30000"})
  void inMillisecondsToo(int failures, long millis) {
    BackOff backOff = new BackOff(Duration.ofMillis(200), Duration.ofSeconds(30));
    assertThat(backOff.after(failures)).isEqualTo(Duration.ofMillis(millis));
  }
}
