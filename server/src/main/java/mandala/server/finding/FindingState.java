package mandala.server.finding;

import java.time.Instant;
import mandala.core.model.Permission;
import org.jspecify.annotations.Nullable;

/**
 * What people said of a finding.
 *
 * @param owner key of who takes care of it
 * @param acceptance null where nobody accepts it
 * @param draft id of the draft in which a remedy was put
 */
record FindingState(
    @Nullable String owner, @Nullable Acceptance acceptance, @Nullable String draft) {

  static final FindingState NONE = new FindingState(null, null, null);

  /**
   * A finding may stay, until a time, as bad as it was.
   *
   * @param by key of who accepted it
   */
  record Acceptance(
      Instant until, String by, Instant at, Permission.Risk risk, long weight, String reason) {}
}
