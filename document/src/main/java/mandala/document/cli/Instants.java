package mandala.document.cli;

import java.time.Clock;
import java.time.Instant;
import java.time.format.DateTimeParseException;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;

/** The instant that a call names by {@code --at}. */
final class Instants {

  private Instants() {}

  /**
   * {@return the instant that was named, or now}, in whole seconds
   *
   * @throws ModelFile.Unusable if it cannot be read
   */
  static Instant of(@Nullable String at) throws ModelFile.Unusable {
    try {
      return at == null
          ? Clock.systemUTC().instant().truncatedTo(ChronoUnit.SECONDS)
          : Instant.parse(at);
    } catch (DateTimeParseException _) {
      throw new ModelFile.Unusable(
          "--at: '" + at + "' is not a date and time. Write it as 2026-05-01T09:00:00Z.",
          ModelFile.UNUSABLE);
    }
  }
}
