package mandala.server.lifecycle;

import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.util.List;
import java.util.Locale;
import mandala.core.change.Change;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.model.LiveModel;
import mandala.server.model.RevisionCause;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.Credentials;
import mandala.server.session.OpenSessions;
import mandala.server.session.SignIn;
import mandala.server.session.SignInLinks;
import mandala.server.session.SignInLinks.Link;
import mandala.server.session.SignInLinks.Purpose;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/** Lets people choose their passwords; whoever was invited is active from then on (section 11). */
@Service
class Joining {

  private static final Logger LOG = LoggerFactory.getLogger(Joining.class);

  /** The fewest characters of a password. */
  static final int SHORTEST = 10;

  private final SignInLinks links;
  private final SignIn signIn;
  private final Credentials credentials;
  private final OpenSessions sessions;
  private final Invitations invitations;
  private final LiveModel model;
  private final EntityManager entities;
  private final TransactionTemplate transactions;
  private final Trail trail;
  private final AuditContext auditContext;
  private final Clock clock;

  Joining(
      SignInLinks links,
      SignIn signIn,
      Credentials credentials,
      OpenSessions sessions,
      Invitations invitations,
      LiveModel model,
      EntityManager entities,
      TransactionTemplate transactions,
      Trail trail,
      AuditContext auditContext,
      Clock clock) {
    this.links = links;
    this.signIn = signIn;
    this.credentials = credentials;
    this.sessions = sessions;
    this.invitations = invitations;
    this.model = model;
    this.entities = entities;
    this.transactions = transactions;
    this.trail = trail;
    this.auditContext = auditContext;
    this.clock = clock;
  }

  /** {@return that a link can't be used}, in the same words whatever the reason */
  static Problem over() {
    return Problem.notFound(
        "This link or first password is wrong, over, or was used before. Ask your administrator for"
            + " a new one.");
  }

  /** {@return whom a key or an address names}; unknown names stay as typed */
  PrincipalKey named(String typed) {
    return signIn.named(typed);
  }

  /**
   * {@return whose link it is}
   *
   * @throws Problem if they can't sign in with it: suspended, left, or active since
   */
  Principal require(Link link) {
    Principal who = model.engine().catalogue().principals().get(link.principal());
    if (who == null || !fits(who, link.purpose())) {
      throw over();
    }
    return who;
  }

  private static boolean fits(Principal who, Purpose purpose) {
    return switch (who.status()) {
      case INVITED -> purpose != Purpose.RESET;
      case ACTIVE -> purpose != Purpose.INVITATION;
      case SUSPENDED, LEFT -> false;
    };
  }

  /**
   * Sets a password, once for each link; sessions of before end.
   *
   * @return who joined
   * @throws Problem if the password is too weak, or the link can't be used
   */
  PrincipalKey join(Link link, String password) {
    Principal who = require(link);
    requireGood(password, who);
    String hash = credentials.hash(password);
    if (who.status() == Principal.Status.INVITED) {
      model.decided(state -> activated(state, link), (_, _) -> set(link, hash, who));
    } else {
      transactions.executeWithoutResult(_ -> set(link, hash, who));
    }
    return who.key();
  }

  private static LiveModel.Decision activated(LiveModel.State state, Link link) {
    Principal who = state.engine().catalogue().principals().get(link.principal());
    if (who == null || who.status() != Principal.Status.INVITED) {
      throw over();
    }
    List<Change> changes = List.of(new Change.Altered(who, who.activated()));
    return new LiveModel.Decision(
        changes,
        state.engine().after(changes),
        new RevisionCause(
            who.key().value(),
            who.about().nameOr(who.key()) + " accepted their invitation",
            null,
            null));
  }

  private void set(Link link, String hash, Principal who) {
    if (!links.use(link)) {
      throw over();
    }
    credentials.choose(entities, who.key(), hash);
    sessions.end(who.key());
    boolean first = who.status() == Principal.Status.INVITED;
    trail.write(
        List.of(
            auditContext.atHome(
                AuditEvent.Act.CHANGED,
                who.key().value(),
                first ? "Accepted the invitation and chose a password" : "Chose a new password")));
  }

  private static void requireGood(String password, Principal who) {
    if (password.codePointCount(0, password.length()) < SHORTEST) {
      throw Problem.badRequest(
          "The password is too short",
          "It has fewer than "
              + SHORTEST
              + " characters. Choose a longer one: a sentence is good.");
    }
    String plain = password.strip().toLowerCase(Locale.ROOT);
    String email = who.email();
    boolean known =
        plain.equals(who.key().value())
            || plain.equals(who.about().nameOr(who.key()).toLowerCase(Locale.ROOT))
            || (email != null && plain.equals(email.toLowerCase(Locale.ROOT)));
    if (known) {
      throw Problem.badRequest(
          "The password is easy to guess",
          "It is your name, key or address. Choose something that others do not know.");
    }
  }

  /**
   * Sends somebody a link for a new password, where there is such a person; after the answer, whose
   * time so says nothing about that.
   */
  void forgotten(String typed) {
    Thread.ofVirtual()
        .name("forgotten")
        .start(() -> {
          try {
            send(typed);
          } catch (RuntimeException e) {
            LOG.error("A link for a new password was not sent", e);
          }
        });
  }

  private void send(String typed) {
    Principal who = model.engine().catalogue().principals().get(named(typed));
    if (who == null || who.kind() != Principal.Kind.PERSON) {
      return;
    }
    String email = who.email();
    boolean can =
        who.status() == Principal.Status.INVITED
            || model.engine().isActive(who.key(), clock.instant());
    if (email != null && can) {
      invitations.send(who, email, null);
    }
  }
}
