package mandala.server.platform;

import java.time.Duration;

/**
 * How long to pause before what failed is tried again: twice as long after each failure in a row.
 *
 * @param first after one failure
 * @param longest however many failed
 */
public record BackOff(Duration first, Duration longest) {

  /** More failures in a row than this change nothing. */
  private static final int MOST_DOUBLINGS = 20;

  /** {@return the pause after a number of failures in a row} */
  public Duration after(int failures) {
    Duration pause = first.multipliedBy(1L << Math.clamp(failures - 1, 0, MOST_DOUBLINGS));
    return pause.compareTo(longest) > 0 ? longest : pause;
  }
}
