package mandala.server.session;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.security.web.csrf.CsrfToken;
import org.springframework.security.web.csrf.CsrfTokenRepository;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out. */
@RestController
@RequestMapping("/api/session")
class SessionController {

  private final SignIn signIn;
  private final Throttle throttle;
  private final SeenTimes seen;
  private final LiveModel model;
  private final CurrentPrincipal viewer;
  private final SecurityContextRepository contexts;
  private final Trail trail;
  private final AuditContext auditContext;
  private final CsrfTokenRepository tokens;
  private final Clock clock;

  SessionController(
      SignIn signIn,
      Throttle throttle,
      SeenTimes seen,
      LiveModel model,
      CurrentPrincipal viewer,
      SecurityContextRepository contexts,
      Trail trail,
      AuditContext auditContext,
      CsrfTokenRepository tokens,
      Clock clock) {
    this.tokens = tokens;
    this.clock = clock;
    this.signIn = signIn;
    this.throttle = throttle;
    this.seen = seen;
    this.model = model;
    this.viewer = viewer;
    this.contexts = contexts;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /** Name (key or e-mail address), password, and the code of the second factor or nothing. */
  record Attempt(
      @NotBlank @Size(max = 200) String name,
      @NotNull @Size(max = 500) String password,
      @Nullable @Size(max = 20) String code) {}

  /** A code of the second factor. */
  record Code(@NotBlank @Size(max = 20) String code) {}

  /**
   * The state of the session.
   *
   * @param who the signed-in principal, null where nobody is
   * @param demo whether this is the demo
   * @param seenBy who really is signed in, in an impersonated view of {@code who}
   */
  record SessionState(@Nullable Who who, boolean demo, @Nullable Who seenBy) {}

  /** Who is signed in. */
  record Who(
      String key,
      String name,
      @Nullable String title,
      String account,
      boolean secondFactor,
      boolean enrolled) {}

  @GetMapping
  SessionState state(HttpServletRequest request) {
    if (request.getAttribute(CsrfToken.class.getName()) instanceof CsrfToken token) {
      token.getToken(); // sets the cookie that later calls must answer with
    }
    SignedIn signedIn = CurrentPrincipal.current();
    boolean demo = model.state().demo();
    if (signedIn == null || Impersonation.current() == null) {
      return new SessionState(signedIn == null ? null : who(signedIn), demo, null);
    }
    Session seen = viewer.session();
    return new SessionState(
        who(seen.principal(), seen.mfa()),
        demo,
        who(viewer.signedIn().principal(), signedIn.secondFactor()));
  }

  private Who who(SignedIn signedIn) {
    return who(viewer.signedIn().principal(), signedIn.secondFactor());
  }

  private Who who(PrincipalKey key, boolean secondFactor) {
    Catalogue catalogue = model.engine().catalogue();
    Principal principal = catalogue.principals().get(key);
    if (principal == null) {
      throw Problem.signedOut(
          "'" + key + "' is no longer in the directory. Ask a directory administrator.");
    }
    return new Who(
        key.value(),
        principal.about().nameOr(key),
        principal.attributes().get("title"),
        principal.account().value(),
        secondFactor,
        signIn.isEnrolled(key.value()));
  }

  @PostMapping
  SessionState signIn(
      @Valid @RequestBody Attempt attempt,
      HttpServletRequest request,
      HttpServletResponse response) {
    PrincipalKey name = signIn.named(attempt.name());
    throttle.attempt(name.value(), request.getRemoteAddr());
    SignedIn signedIn;
    try {
      signedIn = signIn.check(name, attempt.password(), attempt.code());
    } catch (Problem refusal) {
      trail.writeAlone(
          auditContext.atHome(AuditEvent.Act.REFUSED, name.value(), "Signing in was refused"));
      throw refusal;
    }
    throttle.succeeded(name.value(), request.getRemoteAddr());
    seen.note(name, clock.instant());
    trail.writeAlone(
        auditContext.atHome(
            AuditEvent.Act.SIGNED_IN,
            name.value(),
            signedIn.secondFactor() ? "Signed in with a second factor" : "Signed in"));
    SessionEnd.begin(request.getSession(), clock.instant());
    SessionState state = keep(signedIn, request, response);
    return state;
  }

  @PostMapping("/second-factor")
  SessionState stepUp(
      @Valid @RequestBody Code code, HttpServletRequest request, HttpServletResponse response) {
    SignedIn current = CurrentPrincipal.current();
    if (current == null) {
      throw Problem.signedOut("Sign in first.");
    }
    SignedIn signedIn = signIn.stepUp(current, code.code());
    trail.writeAlone(
        auditContext.atHome(
            AuditEvent.Act.SIGNED_IN, current.principal(), "Showed a second factor"));
    return keep(signedIn, request, response);
  }

  private SessionState keep(
      SignedIn signedIn, HttpServletRequest request, HttpServletResponse response) {
    if (request.getSession(false) != null) {
      request.changeSessionId();
    }
    SecurityContext context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(
        UsernamePasswordAuthenticationToken.authenticated(signedIn, null, List.of()));
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
    // a protection token of before signing in protects nothing after it
    CsrfToken fresh = tokens.generateToken(request);
    tokens.saveToken(fresh, request, response);
    return new SessionState(who(signedIn), model.state().demo(), null);
  }

  @DeleteMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOut(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    SignedIn current = CurrentPrincipal.current();
    if (current != null) {
      trail.writeAlone(
          auditContext.atHome(AuditEvent.Act.SIGNED_OUT, current.principal(), "Signed out"));
    }
    if (session != null) {
      session.invalidate();
    }
    SecurityContextHolder.clearContext();
  }
}
