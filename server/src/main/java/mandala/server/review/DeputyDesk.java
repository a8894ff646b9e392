package mandala.server.review;

import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Deputies for decisions: while somebody is absent, items go to whom they named. */
@Service
class DeputyDesk {

  private final Deputies store;
  private final Acquaintances acquaintances;
  private final Trail trail;
  private final AuditContext auditContext;

  DeputyDesk(Deputies store, Acquaintances acquaintances, Trail trail, AuditContext auditContext) {
    this.store = store;
    this.acquaintances = acquaintances;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  ReviewController.MyDeputy mine(RequestContext context) {
    return new ReviewController.MyDeputy(
        store
            .of(context.readPolicy().viewer().value())
            .map(it ->
                new ReviewController.DeputyView(
                    it.deputy(), acquaintances.name(it.deputy(), context), it.begins(), it.ends()))
            .orElse(null),
        acquaintances.targets(context));
  }

  /**
   * Names a deputy. What waits for the viewer in open rounds goes to them while they stand in.
   *
   * @throws Problem if there is no such person to the viewer's eyes
   */
  @Transactional
  public ReviewController.MyDeputy name(
      ReviewController.DeputyOrder order, RequestContext context) {
    PrincipalKey me = context.readPolicy().viewer();
    Catalogue catalogue = context.state().engine().catalogue();
    Principal whom = catalogue.principals().get(new PrincipalKey(order.who()));
    if (whom == null
        || whom.kind() != Principal.Kind.PERSON
        || whom.key().equals(me)
        || !acquaintances.isKnown(whom, context)
        || !context.state().engine().isActive(whom.key(), context.readPolicy().now())) {
      throw Problem.notFound(
          "There is no other active person '"
              + order.who()
              + "' that you may name. Choose from the list.");
    }
    if (!order.ends().isAfter(order.begins())
        || !order.ends().isAfter(context.readPolicy().now())) {
      throw Problem.badRequest(
          "The end is not after the beginning", "Choose a later end for your deputy.");
    }
    store.keep(new Deputies.Deputy(me.value(), order.who(), order.begins(), order.ends()));
    note("Named " + whom.about().nameOr(whom.key()) + " as deputy for decisions", context);
    return mine(context);
  }

  @Transactional
  public ReviewController.MyDeputy end(RequestContext context) {
    store.remove(context.readPolicy().viewer().value());
    note("Ended the deputy for decisions", context);
    return mine(context);
  }

  private void note(String said, RequestContext context) {
    Principal me =
        context.state().engine().catalogue().principals().get(context.readPolicy().viewer());
    trail.write(
        List.of(
            auditContext.by(
                AuditEvent.Act.CHANGED,
                me == null ? List.of() : List.of(me.account().value()),
                said)));
  }
}
