package mandala.server.lifecycle;

import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Somebody is lent to another account for a time.
 *
 * @param from when it begins; with the draft where absent
 * @param sponsor key of a person who answers for them there
 * @param joins groups of the account that they are in for that time
 */
record LoanOrder(
    @NotBlank @Size(max = 100) String account,
    @Nullable Instant from,
    @NotNull Instant until,
    @NotBlank @Size(max = 200) String sponsor,
    @NotNull @Size(max = 200) List<@NotBlank String> joins) {

  /** Cuts fractions of a second, which the model does not keep. */
  LoanOrder {
    if (from != null) {
      from = from.truncatedTo(ChronoUnit.SECONDS);
    }
    if (until != null) {
      until = until.truncatedTo(ChronoUnit.SECONDS);
    }
  }
}
