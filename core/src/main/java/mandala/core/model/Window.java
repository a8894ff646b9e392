package mandala.core.model;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A half-open span of time: it holds at t where {@code from} ≤ t &lt; {@code until}; a missing end
 * is unbounded (section 1). That it ends after it begins is checked with the whole model.
 */
public record Window(@Nullable Instant from, @Nullable Instant until) {

  /** Without beginning or end. */
  public static final Window ALWAYS = new Window(null, null);

  /** {@return whether the window holds at the instant} */
  public boolean holdsAt(Instant at) {
    return (from == null || !at.isBefore(from)) && (until == null || at.isBefore(until));
  }
}
