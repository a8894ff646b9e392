package mandala.server.tidy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.Predicate;
import mandala.core.authority.Authority;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.tidy.ModelSize;
import mandala.core.tidy.Tidier;
import mandala.core.tidy.TidyChoice;
import mandala.core.tidy.TidyStep;
import mandala.document.ChangeTeller;
import mandala.document.ChangeText;
import mandala.document.ThingDocument;
import mandala.document.TidyText;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.job.JobKind;
import mandala.server.job.JobRun;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Looks for what can go without changing anybody's access. Whoever may change anything of it gets
 * proposals that they may put into a draft; whoever may only read gets all that they may read.
 */
@Component
class TidyJob implements JobKind {

  static final String NAME = "tidy";

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /**
   * What is asked.
   *
   * @param roles whether roles and groups are proposed for what many are given one by one
   */
  record Order(boolean roles) {}

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) {
    Order order = JSON.treeToValue(run.order().details(), Order.class);
    RequestContext context = run.context(null, null);
    ReadPolicy policy = context.readPolicy();
    Engine engine = context.state().engine();
    Catalogue live = engine.catalogue();
    Instant at = policy.now();
    Predicate<Thing> readable = it -> policy.mayRead(it, live) && context.tellsAllOf(it);
    Predicate<Thing> changeable = readable.and(it -> context.cannotChange(it) == null);
    List<Thing> things = tidied(live.model());
    boolean changes = things.stream().anyMatch(changeable);
    boolean part = !things.stream().allMatch(changes ? changeable : readable);
    int[] looked = {0};
    Tidier.Answer answer =
        Tidier.of(
            engine,
            at,
            order.roles() ? Tidier.Also.ROLES : Tidier.Also.NOTHING,
            new Tidier.Bounds(
                changes ? changeable : readable,
                readable,
                policy.readsAll(),
                () -> run.progress(++looked[0], -1)));
    List<TidyStep> steps = changes ? permitted(answer, live, policy) : answer.steps();
    run.answer(
        new TidyAnswer(
            context.state().revision(), at, part, changes, proposals(steps, answer, context)));
  }

  /** What may be made less of. */
  private static List<Thing> tidied(AccessModel model) {
    List<Thing> things = new ArrayList<>();
    for (Kind kind : List.of(Kind.PERMISSION_SETS, Kind.ROLES, Kind.GROUPS, Kind.ASSIGNMENTS)) {
      things.addAll(model.things(kind));
    }
    return things;
  }

  /** Without steps that add what the viewer may not add, and without those that need them. */
  private static List<TidyStep> permitted(Tidier.Answer answer, Catalogue live, ReadPolicy policy) {
    Catalogue after = new Catalogue(answer.after());
    List<List<Integer>> needs = TidyChoice.needs(answer.steps());
    List<TidyStep> steps = new ArrayList<>();
    boolean[] out = new boolean[needs.size()];
    for (int i = 0; i < out.length; i++) {
      TidyStep step = answer.steps().get(i);
      out[i] =
          needs.get(i).stream().anyMatch(it -> out[it])
              || step.changes().stream()
                  .filter(Change.Added.class::isInstance)
                  .anyMatch(it ->
                      Authority.missing(it, live, after, policy.viewer(), policy::may).isPresent());
      if (!out[i]) {
        steps.add(step);
      }
    }
    return steps;
  }

  private static List<TidyAnswer.TidyProposal> proposals(
      List<TidyStep> steps, Tidier.Answer answer, RequestContext context) {
    Catalogue live = context.state().engine().catalogue();
    ChangeTeller teller = new ChangeTeller(live, context.naming());
    Catalogue after = new Catalogue(answer.after());
    TidyText text = new TidyText(live, after, context.naming());
    ChangeText names = new ChangeText(live, after, context.naming());
    List<List<Integer>> needs = TidyChoice.needs(steps);
    List<TidyAnswer.TidyProposal> proposals = new ArrayList<>();
    for (int i = 0; i < steps.size(); i++) {
      TidyStep it = steps.get(i);
      AccountKey account = accountOf(it.changes().getLast().things().getFirst(), live);
      proposals.add(
          new TidyAnswer.TidyProposal(
              reason(it.why()),
              teller.sentences(it.changes()),
              text.why(it.why()),
              account == null ? null : names.name(Kind.ACCOUNTS, account.value()),
              it.changes().stream().mapToInt(ModelSize::fewer).sum(),
              needs.get(i),
              ThingDocument.write(it.changes())));
    }
    return proposals;
  }

  private static String reason(TidyStep.Why why) {
    return switch (why) {
      case TidyStep.Why.LeftTheSame _ -> "included";
      case TidyStep.Why.Covered it -> it.by() == null ? "ended" : "covered";
      case TidyStep.Why.Twin _ -> "twin";
      case TidyStep.Why.TakesNothing _ -> "no-effect";
      case TidyStep.Why.Role _ -> "role";
      case TidyStep.Why.Group _ -> "group";
    };
  }

  private static @Nullable AccountKey accountOf(Thing thing, Catalogue live) {
    return switch (thing) {
      case Assignment it -> live.homeOf(it.subject());
      case Group it -> it.account();
      case Role it -> it.account();
      case PermissionSet it -> it.account();
      case Bridge it -> it.account();
      default -> null;
    };
  }

  /** {@return the steps of an answer}, each without its reason */
  static List<TidyStep> steps(TidyAnswer answer) {
    return answer.steps().stream()
        .map(it ->
            new TidyStep(
                ThingDocument.changes(Objects.requireNonNull(it.changes())),
                new TidyStep.Why.LeftTheSame()))
        .toList();
  }
}
