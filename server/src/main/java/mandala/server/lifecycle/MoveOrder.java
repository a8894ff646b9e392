package mandala.server.lifecycle;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Somebody takes up another post.
 *
 * @param account their home account afterwards
 * @param unit none where absent; {@code manager} and {@code title} likewise
 * @param at when; with the draft where absent
 * @param grace until when what ends may still be finished
 * @param fates what becomes of their ties, by name; what is not named stays
 * @param joins groups that they join
 */
record MoveOrder(
    @NotBlank @Size(max = 100) String account,
    @Nullable @Size(max = 100) String unit,
    @Nullable @Size(max = 100) String manager,
    @Nullable @Size(max = 200) String title,
    @Nullable Instant at,
    @Nullable Instant grace,
    @NotNull @Size(max = 5000) Map<String, @NotNull @Valid FateOrder> fates,
    @NotNull @Size(max = 200) List<@NotBlank String> joins) {

  /** Cuts fractions of a second, which the model does not keep. */
  MoveOrder {
    if (grace != null) {
      grace = grace.truncatedTo(ChronoUnit.SECONDS);
    }
  }
}
