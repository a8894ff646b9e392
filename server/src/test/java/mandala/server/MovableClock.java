package mandala.server;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Primary;

/** The machine's clock, moved forward by a test. */
public final class MovableClock extends Clock {

  private volatile Duration ahead = Duration.ZERO;

  /** Has the server of a test go by such a clock. */
  @TestConfiguration
  public static class Moves {

    @Bean
    @Primary
    MovableClock movableClock() {
      return new MovableClock();
    }
  }

  /** Moves it forward. */
  public synchronized void move(Duration by) {
    ahead = ahead.plus(by);
  }

  /** Has it tell the machine's time again: sessions of a web server begin by that. */
  public synchronized void reset() {
    ahead = Duration.ZERO;
  }

  @Override
  public Instant instant() {
    return Clock.systemUTC().instant().plus(ahead);
  }

  @Override
  public ZoneId getZone() {
    return ZoneOffset.UTC;
  }

  @Override
  public Clock withZone(ZoneId zone) {
    return this;
  }
}
