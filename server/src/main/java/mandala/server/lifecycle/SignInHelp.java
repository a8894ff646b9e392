package mandala.server.lifecycle;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.function.Consumer;
import mandala.core.model.Principal;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.OpenSessions;
import mandala.server.session.SignInFacts;
import mandala.server.session.SignInLinks;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** What an administrator does so that somebody can sign in, or no longer is signed in. */
@Component
class SignInHelp {

  private final Invitations invitations;
  private final SignInLinks links;
  private final OpenSessions sessions;
  private final SignInFacts signIns;
  private final Trail trail;
  private final AuditContext auditContext;
  private final TransactionTemplate transactions;

  SignInHelp(
      Invitations invitations,
      SignInLinks links,
      OpenSessions sessions,
      SignInFacts signIns,
      Trail trail,
      AuditContext auditContext,
      TransactionTemplate transactions) {
    this.invitations = invitations;
    this.links = links;
    this.sessions = sessions;
    this.signIns = signIns;
    this.trail = trail;
    this.auditContext = auditContext;
    this.transactions = transactions;
  }

  /**
   * Sends an invitation again, or a link for a new password.
   *
   * @return the address it goes to
   * @throws Problem if there is nobody of that key, the caller may not manage them, or they can't
   *     sign in
   */
  String sendLink(String key, RequestContext context) {
    Principal who = requireSigningIn(key, context);
    String email = who.email();
    if (email == null) {
      throw Problem.conflict(
          "They have no e-mail address",
          "Add an address to their details, or make a first password.");
    }
    transactions.executeWithoutResult(_ -> {
      invitations.send(who, email, context.readPolicy().viewer().value());
      note(
          who,
          who.status() == Principal.Status.INVITED
              ? "Sent an invitation to "
              : "Sent a link for a new password to ");
    });
    return email;
  }

  /**
   * Makes a first password, which its person changes when they first use it.
   *
   * @return the password, which is not kept
   * @throws Problem as {@link #sendLink}, or if they have a password that they use
   */
  String firstPassword(String key, RequestContext context) {
    Principal who = requireSigningIn(key, context);
    if (who.status() == Principal.Status.ACTIVE && signIns.of(who.key()).password()) {
      throw Problem.conflict(
          "They have a password",
          "Nobody else gets to know a password in use. Send a link for a new one instead.");
    }
    String made =
        transactions.execute(_ -> {
          note(who, "Made a first password for ");
          return links.firstPassword(who.key(), context.readPolicy().viewer().value());
        });
    return String.valueOf(made);
  }

  /**
   * Signs somebody out everywhere.
   *
   * @return how many sessions ended
   * @throws Problem if there is nobody of that key, or the caller may not manage them
   */
  int signOut(String key, RequestContext context) {
    Principal who = new People(context).requireManaged(key);
    Integer ended =
        transactions.execute(_ -> {
          note(who, "Signed out everywhere: ");
          return sessions.end(who.key());
        });
    return ended == null ? 0 : ended;
  }

  /** Somebody for whom it was not done, and why. */
  record NotDone(String key, String why) {}

  /** What came of an act on many: for how many it was done. */
  record DoneForMany(int done, List<NotDone> notDone) {}

  /** Does an act for each of many people; what one of them prevents does not keep the others. */
  static DoneForMany each(List<String> keys, Consumer<String> act) {
    int done = 0;
    List<NotDone> notDone = new ArrayList<>();
    for (String key : new LinkedHashSet<>(keys)) {
      try {
        act.accept(key);
        done++;
      } catch (Problem e) {
        notDone.add(new NotDone(key, e.title() + ". " + e.getMessage()));
      }
    }
    return new DoneForMany(done, notDone);
  }

  private static Principal requireSigningIn(String key, RequestContext context) {
    Principal who = new People(context).requireManaged(key);
    if (who.kind() != Principal.Kind.PERSON) {
      throw Problem.conflict(
          "Services do not sign in", "Make a token for '" + key + "' under Settings instead.");
    }
    if (who.status() == Principal.Status.SUSPENDED || who.status() == Principal.Status.LEFT) {
      throw Problem.conflict(
          "They are " + (who.status() == Principal.Status.LEFT ? "no longer here" : "suspended"),
          "Change their state first; then they can choose a password.");
    }
    return who;
  }

  private void note(Principal who, String done) {
    trail.write(
        List.of(
            auditContext.by(
                AuditEvent.Act.SENT,
                List.of(who.account().value()),
                done + who.about().nameOr(who.key()))));
  }
}
