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
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Finds how people could come to a right, and notes that it was asked. */
@Component
class EscalationService {

  private final QuestionAudit audit;
  private final JobOrders orders;

  EscalationService(QuestionAudit audit, JobOrders orders) {
    this.audit = audit;
    this.orders = orders;
  }

  /**
   * {@return how one person could come to a right}, as far as the viewer may read it
   *
   * @throws Problem if something is unknown, the viewer may not ask, or too many changes are asked
   *     for
   */
  ChainsAnswer answer(ClimberParams params, RightParams right, RequestContext context) {
    Engine engine = context.asked().engine();
    AskablePrincipal asked = AskablePrincipal.of(context, params.principal(), null);
    if (!engine.catalogue().principals().containsKey(asked.principal().key())) {
      throw Problem.notFound(
          "'" + params.principal() + "' is not in the directory of the model that you ask about.");
    }
    Naming naming = context.about(List.of(asked.principal()), asked.only(), null);
    String permission = right.permission();
    ResourceKey place = right.where();
    AccountKey account = naming.tells(place) ? engine.catalogue().accountOf(place) : null;
    if (account == null
        || Visibility.permission(permission, engine.catalogue(), naming) == null
        || (asked.only() != null && !asked.only().contains(account))) {
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
    int changes = requireChanges(params.changes(), 3, EscalationSearch.Limits.ONE.changes());
    Question question =
        new Question(
            asked.principal().key(),
            new PermissionKey(permission),
            place,
            context.instantOrNow(params.at()),
            params.showsSecondFactor(),
            null);
    EscalationSearch.Limits limits = EscalationSearch.Limits.ONE.withChanges(changes);
    EscalationSearch.Answer answer = EscalationSearch.of(engine, question, limits);
    List<ChainsAnswer.ChainView> told =
        answer.chains().stream()
            .filter(it -> EscalationPathView.isReadable(it, context, engine.catalogue()))
            .map(it -> EscalationPathView.of(it, context, engine.catalogue()))
            .toList();
    return new ChainsAnswer(
        answer.held(),
        asked.principal().about().nameOr(asked.principal().key()),
        wanted.what(),
        wanted.place(),
        told,
        changes,
        answer.whole(),
        answer.chains().size() > told.size());
  }

  private static int requireChanges(@Nullable Integer asked, int usual, int most) {
    int changes = asked == null ? usual : asked;
    if (changes < 1 || changes > most) {
      throw Problem.badRequest(
          "Chains of 1 to " + most + " changes",
          "'changes' is " + changes + ". Give 1, 2 or 3; longer chains are not searched.");
    }
    return changes;
  }

  /**
   * Begins the search for who could come to a right.
   *
   * @throws Problem if something is unknown, the viewer may not ask, too many changes are asked
   *     for, or they have too much running
   */
  Job begin(EscalationSearchJob.Order order, RequestContext context) {
    requireChanges(order.changes(), 2, EscalationSearch.Limits.EACH.changes());
    HoldersQuestion wanted = order.wanted(context);
    audit.everybody(
        wanted.accounts(context.asked().engine().catalogue()),
        "Who could get " + wanted.what() + ": " + wanted.place());
    return orders.begin(
        EscalationSearchJob.NAME, "Who could get " + wanted.what() + ": " + wanted.place(), order);
  }
}
