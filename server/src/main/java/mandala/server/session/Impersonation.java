package mandala.server.session;

import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.util.Set;
import mandala.server.platform.Instants;
import org.jspecify.annotations.Nullable;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

/**
 * With whose eyes the running call is to look: an impersonated view. A call says so in headers, so
 * that two views stand side by side in one browser.
 *
 * @param principal whose eyes
 * @param secondFactor whether as with their second factor
 * @param at when, null for now
 * @param onlyReads whether the call can change nothing
 */
record Impersonation(
    String principal, boolean secondFactor, @Nullable Instant at, boolean onlyReads) {

  /** The headers by which a call says whose eyes, with which factor, and when. */
  static final String AS = "Mandala-As";

  static final String FACTOR = "Mandala-As-Factor";
  static final String AT = "Mandala-As-At";

  /** Calls that only look, though they send a body. */
  private static final Set<String> LOOKS =
      Set.of(
          "/api/places/scope",
          "/api/places/rule",
          "/api/people/named",
          "/api/ask/escalation/everyone",
          "/api/trail/exports");

  /** Jobs are begun and ended by whoever is signed in, whatever they look at. */
  private static final String JOBS = "/api/jobs/";

  /** {@return the view of the running call}, null where one looks with one's own eyes */
  static @Nullable Impersonation current() {
    return RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes call
        ? of(call.getRequest())
        : null;
  }

  private static @Nullable Impersonation of(HttpServletRequest call) {
    String principal = call.getHeader(AS);
    if (principal == null || principal.isBlank()) {
      return null;
    }
    boolean reads =
        call.getMethod().equals("GET")
            || call.getMethod().equals("HEAD")
            || LOOKS.contains(call.getRequestURI())
            || call.getRequestURI().startsWith(JOBS);
    return new Impersonation(
        principal, "1".equals(call.getHeader(FACTOR)), Instants.of(call.getHeader(AT)), reads);
  }
}
