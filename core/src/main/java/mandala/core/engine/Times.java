package mandala.core.engine;

import mandala.core.model.Window;

/** A window of which only whole seconds count: it holds at t where from ≤ t &lt; until. */
record Times(long from, long until) {

  static final Times ALWAYS = new Times(Long.MIN_VALUE, Long.MAX_VALUE);

  static Times of(Window window) {
    if (window.from() == null && window.until() == null) {
      return ALWAYS;
    }
    return new Times(
        window.from() == null ? Long.MIN_VALUE : window.from().getEpochSecond(),
        window.until() == null ? Long.MAX_VALUE : window.until().getEpochSecond());
  }

  boolean holdsAt(long at) {
    return from <= at && at < until;
  }
}
