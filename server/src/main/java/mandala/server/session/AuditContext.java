package mandala.server.session;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.model.LiveModel;
import mandala.server.platform.Refused;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;
import org.springframework.web.servlet.HandlerMapping;

/**
 * Makes lines of the trail about whoever calls, and writes down what the running call is refused.
 */
@Component
public class AuditContext {

  private final LiveModel model;
  private final Trail trail;

  AuditContext(LiveModel model, Trail trail) {
    this.model = model;
    this.trail = trail;
  }

  /** {@return from where the running call comes}, null outside of one */
  public static @Nullable String address() {
    return RequestContextHolder.getRequestAttributes() instanceof ServletRequestAttributes call
        ? call.getRequest().getRemoteAddr()
        : null;
  }

  /** {@return whether the running call looks with another's eyes} */
  public static boolean isView() {
    return Impersonation.current() != null;
  }

  /** {@return something that the signed-in principal does} */
  public AuditEvent by(AuditEvent.Act act, List<String> accounts, String said) {
    SignedIn signedIn = CurrentPrincipal.current();
    Impersonation seen = Impersonation.current();
    AuditEvent by =
        signedIn == null ? by(act, null, accounts, said) : of(signedIn, act, accounts, said);
    return seen == null ? by : by.inNameOf(seen.principal());
  }

  /** {@return something that somebody does with their session or token} */
  public AuditEvent of(SignedIn signedIn, AuditEvent.Act act, List<String> accounts, String said) {
    AuditEvent by = by(act, signedIn.principal(), accounts, said);
    return signedIn.token() == null ? by : by.byToken(signedIn.token().name());
  }

  /** {@return something that a principal does} */
  AuditEvent by(AuditEvent.Act act, @Nullable String who, List<String> accounts, String said) {
    Principal principal = who == null ? null : find(who);
    return AuditEvent.of(
        act,
        who,
        principal == null ? null : principal.about().nameOr(principal.key()),
        accounts,
        said,
        address());
  }

  /** {@return something that a principal does at home} */
  public AuditEvent atHome(AuditEvent.Act act, @Nullable String who, String said) {
    Principal principal = who == null ? null : find(who);
    return by(act, principal == null ? null : who, home(principal), said);
  }

  private static List<String> home(@Nullable Principal principal) {
    return principal == null ? List.of() : List.of(principal.account().value());
  }

  /** The path without what was asked for: keys in it may be of what others may not read. */
  private static String pattern(HttpServletRequest call) {
    Object pattern = call.getAttribute(HandlerMapping.BEST_MATCHING_PATTERN_ATTRIBUTE);
    return pattern == null ? call.getRequestURI() : pattern.toString();
  }

  private @Nullable Principal find(String key) {
    return model.engine().catalogue().principals().get(new PrincipalKey(key));
  }

  @EventListener
  void refused(Refused refused) {
    HttpServletRequest call = refused.call();
    SignedIn signedIn = CurrentPrincipal.current();
    if (signedIn != null) {
      trail.writeAlone(
          of(
              signedIn,
              AuditEvent.Act.REFUSED,
              home(find(signedIn.principal())),
              call.getMethod() + " " + pattern(call) + ": " + refused.title()));
    }
  }
}
