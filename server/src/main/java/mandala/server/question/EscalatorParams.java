package mandala.server.question;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotNull;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Who could get a right.
 *
 * @param principal key of the person or service
 * @param at the instant asked about; now where absent
 * @param secondFactor whether they show a second factor; true where absent
 * @param changes maximum number of changes on a path, 1 to 3; 3 where absent
 */
record EscalatorParams(
    @NotNull String principal,
    @Nullable Instant at,
    @Schema(defaultValue = "true") @Nullable Boolean secondFactor,
    @Schema(defaultValue = "3") @Nullable Integer changes) {

  int longest() {
    return changes == null ? 3 : changes;
  }

  boolean showsSecondFactor() {
    return secondFactor == null || secondFactor;
  }
}
