package mandala.server.question;

import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.escalation.EscalationSearch;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.question.WhoQuestion;
import mandala.document.Naming;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.Visibility;
import mandala.server.job.Job;
import mandala.server.job.JobOrders;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Component;

/** Finds how people could get a right, and notes that it was asked. */
@Component
class EscalationService {

  private final QuestionAudit audit;
  private final JobOrders orders;

  EscalationService(QuestionAudit audit, JobOrders orders) {
    this.audit = audit;
    this.orders = orders;
  }

  /**
   * {@return how one person could get a right}, as far as the viewer may read it
   *
   * @throws Problem if something is unknown, the viewer may not ask, or too many changes are asked
   *     for
   */
  EscalationAnswer answer(EscalatorParams params, RightParams right, RequestContext context) {
    Engine engine = context.asked().engine();
    AskablePrincipal asked = AskablePrincipal.of(context, params.principal(), null);
    if (!engine.catalogue().principals().containsKey(asked.principal().key())) {
      throw Problem.notFound(
          "'" + params.principal() + "' is not in the directory of the model that you ask about.");
    }
    Naming naming = context.about(List.of(asked.principal()), asked.only(), null);
    String permission = right.permission();
    ResourceKey place = right.where();
    AccountKey account = asked.askableAccount(place, engine.catalogue(), naming);
    if (account == null || Visibility.permission(permission, engine.catalogue(), naming) == null) {
      throw Problem.notFound(
          "There is no '" + permission + "' on '" + right.resource() + "' to ask about here.");
    }
    HoldersQuestion wanted =
        HoldersQuestion.of(
            List.of(permission),
            null,
            null,
            new WhoQuestion.Where.On(place),
            engine.catalogue(),
            naming);
    audit.about(
        context,
        asked.principal(),
        "How they could " + wanted.what() + ": " + wanted.place(),
        account);
    requireChanges(params.longest(), EscalationSearch.Limits.ONE.changes());
    Question question =
        new Question(
            asked.principal().key(),
            new PermissionKey(permission),
            place,
            context.instantOrNow(params.at()),
            params.showsSecondFactor(),
            null);
    EscalationSearch.Limits limits = EscalationSearch.Limits.ONE.withChanges(params.longest());
    EscalationSearch.Answer answer = EscalationSearch.of(engine, question, limits);
    List<EscalationAnswer.PathView> told =
        answer.paths().stream()
            .filter(it -> EscalationPathView.isReadable(it, context, engine.catalogue()))
            .map(it -> EscalationPathView.of(it, context, engine.catalogue()))
            .toList();
    return new EscalationAnswer(
        answer.held(),
        asked.principal().about().nameOr(asked.principal().key()),
        wanted.what(),
        wanted.place(),
        told,
        params.longest(),
        answer.whole(),
        answer.paths().size() > told.size());
  }

  private static void requireChanges(int wanted, int most) {
    if (wanted < 1 || wanted > most) {
      throw Problem.badRequest(
          "Paths of 1 to " + most + " changes",
          "'changes' is " + wanted + ". Give 1, 2 or 3; longer paths are not searched.");
    }
  }

  /**
   * Begins the search for who could get a right.
   *
   * @throws Problem if something is unknown, the viewer may not ask, too many changes are asked
   *     for, or they have too much running
   */
  Job begin(EscalationSearchJob.Order order, RequestContext context) {
    requireChanges(order.longest(), EscalationSearch.Limits.EACH.changes());
    HoldersQuestion wanted = order.wanted(context);
    String said = "Who could get " + wanted.what() + ": " + wanted.place();
    audit.everybody(wanted.accounts(context.asked().engine().catalogue()), said);
    return orders.begin(EscalationSearchJob.NAME, said, order);
  }
}
