package mandala.server.question;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.escalation.EscalationPath;
import mandala.core.escalation.EscalationSearch;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.question.Question;
import mandala.core.question.WhoQuestion;
import mandala.document.Naming;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.Visibility;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Finds how people could come to a right, and notes that it was asked. */
@Component
class EscalationService {

  /** Maximum time, in milliseconds, for which everybody is looked at in one call. */
  private static final long PATIENCE_MILLIS = 20_000;

  private final QuestionAudit audit;

  EscalationService(QuestionAudit audit) {
    this.audit = audit;
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
    Key.Resource place = right.where();
    Key.Account account = naming.tells(place) ? engine.catalogue().accountOf(place) : null;
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
            new Key.Permission(permission),
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
   * {@return who could come to a right and does not have it}, as far as the viewer may see them
   *
   * @param at the instant asked about; now where null
   * @param most maximum number of changes on a path; 2 where null
   * @throws Problem if something is unknown, the viewer may not ask, or too many changes are asked
   *     for
   */
  ClimbersAnswer everyone(
      RightParams right, @Nullable Instant at, @Nullable Integer most, RequestContext context) {
    int changes = requireChanges(most, 2, EscalationSearch.Limits.EACH.changes());
    Engine engine = context.asked().engine();
    Catalogue catalogue = engine.catalogue();
    HoldersQuestion wanted =
        HoldersQuestion.of(
            List.of(right.permission()),
            null,
            null,
            HoldersQuestion.where(right.resource(), null, null, context),
            catalogue,
            context.naming());
    long end = System.nanoTime() + PATIENCE_MILLIS * 1_000_000;
    int[] looked = new int[2];
    List<EscalationSearch.Climber> climbers =
        EscalationSearch.toward(
            engine,
            new Key.Permission(right.permission()),
            placeOf(wanted),
            context.instantOrNow(at),
            EscalationSearch.Limits.EACH.withChanges(changes),
            (done, of) -> {
              boolean on = System.nanoTime() < end;
              looked[0] = on ? done + 1 : done;
              looked[1] = of;
              return on;
            });
    audit.everybody(
        wanted.accounts(catalogue), "Who could come to " + wanted.what() + ": " + wanted.place());
    boolean whole = context.readPolicy().readsAll();
    List<ClimbersAnswer.ClimberView> people = new ArrayList<>();
    for (EscalationSearch.Climber it : climbers) {
      Principal who = catalogue.principals().get(it.who());
      EscalationPath chain = it.answer().chains().getFirst();
      if (who != null
          && context.readPolicy().mayRead(who)
          && EscalationPathView.isReadable(chain, context, catalogue)) {
        people.add(
            new ClimbersAnswer.ClimberView(
                who.key().value(),
                who.about().nameOr(who.key()),
                context.text().name(Kind.ACCOUNTS, who.account().value()),
                EscalationPathView.of(chain, context, catalogue)));
      }
    }
    return new ClimbersAnswer(
        wanted.what(),
        wanted.place(),
        people,
        whole ? looked[0] : null,
        whole ? looked[1] : null,
        looked[0] == looked[1],
        changes,
        climbers.size() > people.size());
  }

  private static Key.Resource placeOf(HoldersQuestion wanted) {
    return wanted.where() instanceof WhoQuestion.Where.On(Key.Resource it)
        ? it
        : new Key.Resource(wanted.place());
  }
}
