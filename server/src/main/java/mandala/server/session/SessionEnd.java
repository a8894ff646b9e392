package mandala.server.session;

import jakarta.servlet.http.HttpSession;
import java.time.Duration;
import java.time.Instant;
import mandala.server.platform.Problem;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

/** A session ends so long after signing in, however much it is used. */
final class SessionEnd {

  /** The longest time between signing in and signing in again. */
  static final Duration LONGEST = Duration.ofHours(12);

  private static final String SINCE = "mandala.signed-in-at";

  private SessionEnd() {}

  /** Notes in a session when it was signed in. */
  static void begin(HttpSession session, Instant now) {
    session.setAttribute(SINCE, now.getEpochSecond());
  }

  /**
   * Ends the running call's session where its time is over.
   *
   * @throws Problem if it is
   */
  static void require(Instant now) {
    HttpSession session =
        RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes call
            ? call.getRequest().getSession(false)
            : null;
    if (session == null) {
      return;
    }
    Object since = session.getAttribute(SINCE);
    Instant begun =
        since instanceof Long seconds
            ? Instant.ofEpochSecond(seconds)
            : Instant.ofEpochMilli(session.getCreationTime());
    if (begun.plus(LONGEST).isBefore(now)) {
      session.invalidate();
      throw Problem.signedOut(
          "Your session is older than "
              + LONGEST.toHours()
              + " hours. Sign in again; what you typed is still here.");
    }
  }
}
