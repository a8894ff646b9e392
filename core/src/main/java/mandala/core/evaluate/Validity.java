package mandala.core.evaluate;

import mandala.core.compiled.directory.TimeSpan;

/** Until when, and since when, an answer holds: narrowed by every window that it looked at. */
final class Validity {

  private final long at;
  private long from = Long.MIN_VALUE;
  private long until = Long.MAX_VALUE;

  Validity(long at) {
    this.at = at;
  }

  /** {@return whether the time holds now}, and remembers its ends */
  boolean holds(TimeSpan time) {
    if (at < time.from()) {
      until = Math.min(until, time.from());
      return false;
    }
    if (at >= time.until()) {
      from = Math.max(from, time.until());
      return false;
    }
    from = Math.max(from, time.from());
    until = Math.min(until, time.until());
    return true;
  }

  /** {@return the span of time in which nothing looked at begins or ends} */
  TimeSpan span() {
    return new TimeSpan(from, until);
  }
}
