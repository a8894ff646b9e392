package mandala.core.compiled.directory;

import mandala.core.model.Window;

/** A window of which only whole seconds count: it holds at t where from ≤ t &lt; until. */
public record TimeSpan(long from, long until) {

  public static final TimeSpan ALWAYS = new TimeSpan(Long.MIN_VALUE, Long.MAX_VALUE);

  public static TimeSpan of(Window window) {
    if (window.from() == null && window.until() == null) {
      return ALWAYS;
    }
    return new TimeSpan(
        window.from() == null ? Long.MIN_VALUE : window.from().getEpochSecond(),
        window.until() == null ? Long.MAX_VALUE : window.until().getEpochSecond());
  }

  public boolean holdsAt(long at) {
    return from <= at && at < until;
  }
}
