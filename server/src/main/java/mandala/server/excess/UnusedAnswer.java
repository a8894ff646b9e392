package mandala.server.excess;

import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Where a permission is unused.
 *
 * @param keptSince the first day of which use is kept: what was used before it is not known
 * @param total how many places there are
 * @param rights by place; not all where there are very many
 * @param hidden how many of them lie where the viewer may not name places
 */
record UnusedAnswer(LocalDate keptSince, int total, List<UnusedRight> rights, int hidden) {

  /**
   * A right that is unused.
   *
   * @param resource key of the place
   * @param lastUsed the last day that it was used, before the window; absent for never
   * @param days on how many days it was used, before the window
   * @param heldSince since when it is held without a break, as far as the history tells
   * @param heldLonger whether it was held when the history began
   */
  record UnusedRight(
      String resource,
      String name,
      @Nullable LocalDate lastUsed,
      int days,
      @Nullable Instant heldSince,
      boolean heldLonger) {}
}
