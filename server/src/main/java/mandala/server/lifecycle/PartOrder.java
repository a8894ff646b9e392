package mandala.server.lifecycle;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Somebody leaves.
 *
 * @param at when; with the draft where absent
 * @param fates who takes over what they answer for, by name of the tie; what is not named ends
 */
record PartOrder(
    @Nullable Instant at,
    @NotNull @Size(max = 5000) Map<String, @NotNull @Valid FateOrder> fates) {}
