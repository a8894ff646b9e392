package mandala.server.question;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotNull;
import java.time.Instant;
import java.util.List;
import mandala.server.authorization.RequestContext;
import org.jspecify.annotations.Nullable;

/**
 * Whose access an address asks about, and how they are signed in.
 *
 * @param principal key of the person or service
 * @param at the instant asked about; now where absent
 * @param secondFactor whether they show a second factor; false where absent
 * @param actingFor key of whom they act for, or {@code *} for themselves and everybody together
 * @param on keys of the just-in-time assignments that count as activated
 */
record PersonParams(
    @NotNull String principal,
    @Nullable Instant at,
    @Schema(defaultValue = "false") @Nullable Boolean secondFactor,
    @Nullable String actingFor,
    @Nullable List<String> on) {

  /**
   * {@return the question in a model}
   *
   * @throws mandala.server.platform.Problem if the viewer may not ask, or something is unknown
   */
  AccessQuestion in(RequestContext context) {
    return AccessQuestion.of(
        context, principal, at, Boolean.TRUE.equals(secondFactor), actingFor, on);
  }
}
