package mandala.server.platform;

import java.time.DateTimeException;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Instants as callers write them (RFC 3339, UTC), of the years 1 to 9999. */
public final class Instants {

  private static final Instant FIRST = Instant.parse("0001-01-01T00:00:00Z");
  private static final Instant LAST = Instant.parse("9999-12-31T23:59:59Z");

  private Instants() {}

  /**
   * {@return an instant}, null where none is given
   *
   * @throws Problem if the text is no instant, or of another year: the database keeps no such times
   */
  public static @Nullable Instant of(@Nullable String text) {
    if (text == null || text.isBlank()) {
      return null;
    }
    try {
      Instant instant = Instant.parse(text.strip());
      if (!instant.isBefore(FIRST) && !instant.isAfter(LAST)) {
        return instant;
      }
    } catch (DateTimeException _) {
      // told below
    }
    throw Problem.badRequest(
        "'" + shortened(text) + "' is not an instant",
        "Write one of the years 1 to 9999 in UTC, like 2026-05-01T09:00:00Z.");
  }

  private static String shortened(String text) {
    return text.length() > 60 ? text.substring(0, 57) + "..." : text;
  }
}
