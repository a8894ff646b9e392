package mandala.server.question;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotNull;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Two sides that an address compares; what begins with {@code other} is of the other side.
 *
 * @param one the one side as {@link mandala.core.analysis.Compared#parse} reads it
 * @param in key of the account to compare in; everywhere where absent
 * @param at the instant of the one side; now where absent
 * @param secondFactor whether the one side shows a second factor; true where absent
 * @param revision number of the past revision of the one side
 * @param draft id of the draft laid over the one side
 */
record DifferenceParams(
    @NotNull String one,
    @NotNull String other,
    @Nullable String in,
    @Nullable Instant at,
    @Nullable Instant otherAt,
    @Schema(defaultValue = "true") @Nullable Boolean secondFactor,
    @Schema(defaultValue = "true") @Nullable Boolean otherSecondFactor,
    @Nullable Long revision,
    @Nullable Long otherRevision,
    @Nullable String draft,
    @Nullable String otherDraft) {

  /**
   * One of the sides.
   *
   * @param named what is compared
   * @param at null for now
   */
  record Side(String named, @Nullable Instant at, boolean secondFactor, ModelParams model) {}

  Side first() {
    return new Side(
        one, at, secondFactor == null || secondFactor, new ModelParams(draft, revision));
  }

  Side second() {
    return new Side(
        other,
        otherAt,
        otherSecondFactor == null || otherSecondFactor,
        new ModelParams(otherDraft, otherRevision));
  }
}
