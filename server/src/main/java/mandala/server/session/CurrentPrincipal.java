package mandala.server.session;

import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;

/** Who is looking: the signed-in principal of the running call, and whether it still may. */
@Component
public class CurrentPrincipal {

  private final LiveModel model;
  private final Clock clock;

  CurrentPrincipal(LiveModel model, Clock clock) {
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
   * {@return the session in which the viewer's own rights are judged}: for itself, now; in an
   * impersonated view that of the other, then, with which nothing is changed (section 7)
   *
   * @throws Problem if nobody is signed in, who is signed in is no longer active, or may not look
   *     with the other's eyes
   */
  public Session session() {
    Session own = signedIn();
    Impersonation seen = Impersonation.current();
    return seen == null ? own : as(seen, own);
  }

  /**
   * {@return the accounts to which the running call's token is cut}, null where it comes without
   * one
   */
  public @Nullable Set<AccountKey> within() {
    SignedIn signedIn = current();
    return signedIn == null || signedIn.token() == null
        ? null
        : signedIn.token().accounts().stream().map(AccountKey::new).collect(Collectors.toSet());
  }

  /**
   * {@return the session of whoever is signed in}, in an impersonated view too
   *
   * @throws Problem if nobody is signed in, or who is signed in is no longer active
   */
  public Session signedIn() {
    SignedIn signedIn = current();
    if (signedIn == null) {
      throw Problem.signedOut("Sign in first.");
    }
    PrincipalKey key = new PrincipalKey(signedIn.principal());
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    if (!model.engine().isActive(key, now)) {
      throw Problem.signedOut("'" + key + "' is no longer active. Ask a directory administrator.");
    }
    if (signedIn.token() == null) {
      SessionEnd.require(now);
    }
    return new Session(key, now, signedIn.secondFactor(), null);
  }

  private Session as(Impersonation seen, Session own) {
    if (!Impersonations.isBegun(seen.principal())) {
      throw Problem.forbidden(
          "This view was not begun in your session, or has ended. Begin it from the person's page.");
    }
    Principal whom = requireSeen(seen.principal(), own);
    Instant at = seen.at() == null ? own.at() : seen.at();
    if (!model.engine().isActive(whom.key(), at)) {
      throw Problem.forbidden(
          whom.about().nameOr(whom.key())
              + " is not active then, and so sees nothing. Choose another time.");
    }
    return new Session(whom.key(), at, seen.secondFactor(), null);
  }

  /**
   * {@return with whose eyes one may look}
   *
   * @throws Problem if there is nobody of that name to the viewer's eyes, or one may not
   */
  Principal requireSeen(String key, Session own) {
    Engine engine = model.engine();
    Principal whom =
        key.isBlank() ? null : engine.catalogue().principals().get(new PrincipalKey(key));
    boolean may =
        whom != null
            && !whom.key().equals(own.principal())
            && (engine.decide(own.asks(Supplied.ACCESS_IMPERSONATE, whom.place())).allowed()
                || engine
                    .decide(own.asks(Supplied.ACCESS_IMPERSONATE, ResourceKey.of(whom.account())))
                    .allowed());
    if (whom == null || !may) {
      throw Problem.forbidden(
          "To see Mandala as '"
              + key
              + "' would, you need “See as another” over them"
              + (own.mfa() ? "." : ", or sign in with your second factor."));
    }
    return whom;
  }
}
