package mandala.server.session;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

/**
 * The impersonated views that were begun in the session of the running call: each was noted in the
 * trail, and none outlives the session. One principal may be looked at in several windows.
 */
final class Impersonations {

  private static final String BEGUN = "mandala.views";

  private Impersonations() {}

  /** {@return whether a view of a principal was begun in this session, and not ended} */
  static boolean isBegun(String principal) {
    HttpSession session = session(false);
    return session != null && begun(session).containsKey(principal);
  }

  /** Notes in the session that a view was begun. */
  static void begin(String principal) {
    HttpSession session = session(true);
    if (session != null) {
      Map<String, Integer> begun = begun(session);
      begun.merge(principal, 1, Integer::sum);
      session.setAttribute(BEGUN, new TreeMap<>(begun));
    }
  }

  /** Ends one view of a principal; {@return whether there was one} */
  static boolean end(String principal) {
    HttpSession session = session(false);
    if (session == null || !begun(session).containsKey(principal)) {
      return false;
    }
    Map<String, Integer> begun = begun(session);
    begun.computeIfPresent(principal, (_, many) -> many > 1 ? many - 1 : null);
    session.setAttribute(BEGUN, new TreeMap<>(begun));
    return true;
  }

  @SuppressWarnings("unchecked") // written here only
  private static Map<String, Integer> begun(HttpSession session) {
    Object kept = session.getAttribute(BEGUN);
    return kept == null ? new TreeMap<>() : new TreeMap<>((Map<String, Integer>) kept);
  }

  private static @Nullable HttpSession session(boolean make) {
    HttpServletRequest call =
        RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes attributes
            ? attributes.getRequest()
            : null;
    return call == null ? null : call.getSession(make);
  }
}
