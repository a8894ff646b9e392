package mandala.server.question;

import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import mandala.core.authority.RequiredRight;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.escalation.EscalationPath;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;

/** Escalation paths as the API gives them. */
final class EscalationPathView {

  /** Maximum number of approvers named. */
  private static final int NAMED = 5;

  private EscalationPathView() {}

  /** {@return the context}, without a draft that the viewer may not be told of everywhere */
  static RequestContext told(RequestContext context) {
    return context.draftedWithin() == null ? context : context.live();
  }

  /** Whether the viewer may read all that the path alters and names. */
  static boolean isReadable(EscalationPath path, RequestContext context, Catalogue before) {
    Catalogue now = before;
    for (Change change : path.changes()) {
      if (!context.tellsAllOf(change, now)) {
        return false;
      }
      now = Draft.of(List.of(change)).appliedUnchecked(now);
    }
    return true;
  }

  static EscalationAnswer.PathView of(
      EscalationPath path, RequestContext context, Catalogue before) {
    List<EscalationAnswer.StepView> steps = new ArrayList<>();
    Catalogue now = before;
    for (EscalationPath.Step step : path.steps()) {
      switch (step) {
        case EscalationPath.Step.Makes it -> {
          Catalogue after = Draft.of(List.of(it.change())).appliedUnchecked(now);
          steps.add(view(it, context, now, after));
          now = after;
        }
        case EscalationPath.Step.SignsIn _ ->
            steps.add(bare("sign-in", "They sign in with their second factor"));
        case EscalationPath.Step.ActsFor(PrincipalKey whom) -> {
          Principal it = now.principals().get(whom);
          String name =
              it == null || !context.readPolicy().mayRead(it)
                  ? "somebody whom you can't see"
                  : it.about().nameOr(whom);
          steps.add(bare("act-for", "They act for " + name));
        }
      }
    }
    return new EscalationAnswer.PathView(steps, path.approvals());
  }

  private static EscalationAnswer.StepView bare(String kind, String said) {
    return new EscalationAnswer.StepView(
        kind, List.of(said), List.of(), List.of(), List.of(), false);
  }

  private static EscalationAnswer.StepView view(
      EscalationPath.Step.Makes it, RequestContext context, Catalogue before, Catalogue after) {
    List<EscalationAnswer.AdminRightView> uses =
        it.uses().stream().map(demand -> adminRight(demand, context, before)).distinct().toList();
    List<String> approvers =
        it.approvers().stream()
            .map(key -> before.principals().get(key))
            .filter(Objects::nonNull)
            .map(Objects::requireNonNull)
            .filter(who -> context.readPolicy().mayRead(who))
            .map(who -> who.about().nameOr(who.key()))
            .limit(NAMED)
            .toList();
    return new EscalationAnswer.StepView(
        "change",
        context.text(before, after).sentences(it.change()),
        uses,
        it.reasons().stream().map(EscalationPathView::word).distinct().toList(),
        approvers,
        it.approvers().size() > approvers.size());
  }

  private static EscalationAnswer.AdminRightView adminRight(
      RequiredRight demand, RequestContext context, Catalogue in) {
    ResourceKey at = demand.anyOf().getFirst();
    ChangeText text = context.text(in, in);
    return new EscalationAnswer.AdminRightView(
        demand.permission().value(),
        text.name(Kind.PERMISSIONS, demand.permission().value()),
        context.naming().tells(at) ? at.value() : "",
        text.place(at));
  }

  private static String word(SecondApproval.Reason reason) {
    return switch (reason) {
      case SecondApproval.Reason.Widens _, SecondApproval.Reason.WidensFor _ -> "widens";
      case SecondApproval.Reason.Critical _ -> "critical";
      case SecondApproval.Reason.ManyPeople _ -> "many-people";
    };
  }
}
