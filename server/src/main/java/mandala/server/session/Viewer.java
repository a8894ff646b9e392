package mandala.server.session;

import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import mandala.core.engine.Session;
import mandala.core.model.Key;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;

/** Who is looking: the signed-in principal of the running call, and whether it still may. */
@Component
public class Viewer {

  private final LiveModel model;
  private final Clock clock;

  Viewer(LiveModel model, Clock clock) {
    this.model = model;
    this.clock = clock;
  }

  /** {@return the signed-in principal}, null where nobody is signed in */
  static @Nullable SignedIn current() {
    Authentication authentication = SecurityContextHolder.getContext().getAuthentication();
    return authentication != null && authentication.getPrincipal() instanceof SignedIn signedIn
        ? signedIn
        : null;
  }

  /**
   * {@return the session in which the viewer's own rights are judged}: for itself, now
   *
   * @throws Problem if nobody is signed in, or who is signed in is no longer active
   */
  public Session session() {
    SignedIn signedIn = current();
    if (signedIn == null) {
      throw Problem.signedOut("Sign in first.");
    }
    Key.Principal key = new Key.Principal(signedIn.principal());
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    if (!model.engine().isActive(key, now)) {
      throw Problem.signedOut(
          "'" + key + "' is not active any more. Ask a directory administrator.");
    }
    return new Session(key, now, signedIn.secondFactor(), null);
  }
}
