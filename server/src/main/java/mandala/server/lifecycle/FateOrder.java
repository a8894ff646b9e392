package mandala.server.lifecycle;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.validation.constraints.NotBlank;
import org.jspecify.annotations.Nullable;

/**
 * What is to become of something that ties somebody to the model.
 *
 * @param becomes {@code until}: until the end of the grace time
 * @param to key of whoever takes it over
 */
record FateOrder(
    @NotBlank @Schema(allowableValues = {"keep", "end", "until", "hand"}) String becomes,
    @Nullable String to) {}
