package mandala.server.lifecycle;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.RoleKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.draft.HandedDrafts;
import mandala.server.platform.Problem;
import mandala.server.review.HandedReviews;
import mandala.server.session.AuditContext;
import mandala.server.session.OpenSessions;
import mandala.server.token.Tokens;
import org.springframework.stereotype.Service;

/** What somebody has that is not of the model, and what of it another person takes over. */
@Service
class WaitingWork {

  private final OpenSessions sessions;
  private final Tokens tokens;
  private final HandedDrafts drafts;
  private final HandedReviews reviews;
  private final PlannedActs planned;
  private final Trail trail;
  private final AuditContext auditContext;

  WaitingWork(
      OpenSessions sessions,
      Tokens tokens,
      HandedDrafts drafts,
      HandedReviews reviews,
      PlannedActs planned,
      Trail trail,
      AuditContext auditContext) {
    this.sessions = sessions;
    this.tokens = tokens;
    this.drafts = drafts;
    this.reviews = reviews;
    this.planned = planned;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  LifecycleController.StandingView of(String key, RequestContext context) {
    Principal who = new People(context).requireManaged(key);
    return new LifecycleController.StandingView(
        sessions.count(who.key()),
        tokens.count(who.key()),
        drafts.alive(who.key()),
        reviews.owned(who.key()),
        reviews.items(who.key()),
        planned.of(key, context),
        soleHolder(who, context));
  }

  /** Roles that nobody else holds of those whom the viewer may read. */
  private static List<String> soleHolder(Principal who, RequestContext context) {
    Engine engine = context.state().engine();
    Instant at = context.readPolicy().now();
    List<String> sole = new ArrayList<>();
    for (RoleKey role : engine.rolesHeld(who.key(), at)) {
      if (context.naming().tells(Kind.ROLES, role.value())
          && engine.roleHolders(role, at).stream()
              .map(it -> engine.catalogue().principals().get(it.principal()))
              .filter(it -> it != null && context.readPolicy().mayRead(it))
              .allMatch(it -> it.key().equals(who.key()))) {
        sole.add(context.text().name(Kind.ROLES, role.value()));
      }
    }
    return sole;
  }

  /**
   * Hands over what waits for somebody, at once: drafts that the other may read, review items of
   * rounds that the viewer runs; rounds are offered.
   *
   * @throws Problem if they are the viewer, or the other is nobody who could take it over
   */
  LifecycleController.HandedWork hand(String key, String to, RequestContext context) {
    People people = new People(context);
    Principal who = people.requireManaged(key);
    if (context.readPolicy().isViewer(who.key())) {
      throw Problem.conflict("This is you", "Hand over your drafts one by one, under Drafts.");
    }
    Principal other = people.require(to, context.state().engine().catalogue());
    boolean fit =
        other.kind() == Principal.Kind.PERSON
            && !other.key().equals(who.key())
            && context.state().engine().isActive(other.key(), context.readPolicy().now());
    if (!fit) {
      throw Problem.conflict("They can't take it over", "Choose another person who is active.");
    }
    int draftsBefore = drafts.alive(who.key());
    int itemsBefore = reviews.items(who.key());
    int roundsBefore = reviews.owned(who.key());
    int handed = drafts.hand(who.key(), other, context);
    int given = reviews.give(who.key(), other, context);
    int offered = reviews.offer(who.key(), other, context);
    if (handed > 0) {
      trail.writeAlone(
          auditContext.by(
              AuditEvent.Act.CHANGED,
              List.of(who.account().value()),
              "Handed over "
                  + (handed == 1 ? "a draft" : handed + " drafts")
                  + " of "
                  + who.about().nameOr(who.key())
                  + " to "
                  + other.about().nameOr(other.key())));
    }
    return new LifecycleController.HandedWork(
        handed, draftsBefore - handed, given, itemsBefore - given, offered, roundsBefore - offered);
  }
}
