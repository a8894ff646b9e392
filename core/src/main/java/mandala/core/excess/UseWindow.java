package mandala.core.excess;

import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;

/**
 * The days whose use counts (section 12).
 *
 * @param at the instant that is asked about
 * @param days number of dates in UTC, the last of them that of {@code at}; from 1 to {@value #MOST}
 */
public record UseWindow(Instant at, int days) {

  /** Maximum number of days of a window. */
  public static final int MOST = 3660;

  /**
   * Checks the number of days.
   *
   * @throws IllegalArgumentException if it is out of its range
   */
  public UseWindow {
    if (days < 1 || days > MOST) {
      throw new IllegalArgumentException(
          days + " days are no window; write a number from 1 to " + MOST);
    }
  }

  /** {@return the last date that counts} */
  public LocalDate last() {
    return at.atZone(ZoneOffset.UTC).toLocalDate();
  }

  /** {@return the first date that counts} */
  public LocalDate first() {
    return last().minusDays(days - 1L);
  }

  /** {@return whether a date counts} */
  public boolean contains(LocalDate day) {
    return !day.isBefore(first()) && !day.isAfter(last());
  }

  /** {@return the instant since which a right that was not held before is young} */
  public Instant youngSince() {
    return at.minus(days * 24L, ChronoUnit.HOURS);
  }
}
