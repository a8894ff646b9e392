package mandala.server.question;

import jakarta.validation.constraints.NotNull;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import mandala.core.escalation.EscalationPath;
import mandala.core.escalation.EscalationSearch;
import mandala.core.escalation.Escalators;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.authorization.RequestContext;
import mandala.server.job.JobKind;
import mandala.server.job.JobRun;
import mandala.server.platform.ExportTable;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Finds everybody who could get a right and does not have it. */
@Component
class EscalationSearchJob implements JobKind {

  static final String NAME = "escalation-search";

  /** Maximum time for which people are looked at; the answer says that it is not whole. */
  private static final Duration PATIENCE = Duration.ofMinutes(15);

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /**
   * What is searched.
   *
   * @param at the instant asked about; now where null
   * @param changes maximum number of changes on a path; 2 where null
   */
  record Order(
      @NotNull String permission,
      @NotNull String resource,
      @Nullable Instant at,
      @Nullable Integer changes,
      @Nullable String draft,
      @Nullable Long revision) {

    int longest() {
      return changes == null ? 2 : changes;
    }

    /**
     * {@return what is asked}
     *
     * @throws mandala.server.platform.Problem if something is unknown, or the viewer may not ask
     */
    HoldersQuestion wanted(RequestContext context) {
      return HoldersQuestion.of(
          List.of(permission),
          null,
          null,
          HoldersQuestion.where(resource, null, null, context),
          context.asked().engine().catalogue(),
          context.naming());
    }
  }

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) {
    Order order = JSON.treeToValue(run.order().details(), Order.class);
    RequestContext context = EscalationPathView.told(run.context(order.draft(), order.revision()));
    HoldersQuestion wanted = order.wanted(context);
    long end = System.nanoTime() + PATIENCE.toNanos();
    int[] looked = new int[2];
    List<Escalators.Escalator> escalators =
        new Escalators(context.asked().engine(), context.instantOrNow(order.at()))
            .toward(
                new PermissionKey(order.permission()),
                new ResourceKey(order.resource()),
                EscalationSearch.Limits.EACH.withChanges(order.longest()),
                (done, of) -> {
                  // only those who may read everybody learn how many could change anything
                  run.progress(done * 100L / of, 100);
                  looked[0] = done;
                  looked[1] = of;
                  return System.nanoTime() < end;
                });
    run.answer(view(order, wanted, escalators, looked, context));
  }

  private static EscalatorsAnswer view(
      Order order,
      HoldersQuestion wanted,
      List<Escalators.Escalator> escalators,
      int[] looked,
      RequestContext context) {
    Catalogue catalogue = context.asked().engine().catalogue();
    boolean whole = context.readPolicy().readsAll();
    List<EscalatorsAnswer.EscalatorView> people = new ArrayList<>();
    for (Escalators.Escalator it : escalators) {
      Principal who = catalogue.principals().get(it.who());
      EscalationPath path = it.answer().paths().getFirst();
      if (who != null
          && context.readPolicy().mayRead(who)
          && EscalationPathView.isReadable(path, context, catalogue)) {
        people.add(
            new EscalatorsAnswer.EscalatorView(
                who.key().value(),
                who.about().nameOr(who.key()),
                context.text().name(Kind.ACCOUNTS, who.account().value()),
                EscalationPathView.of(path, context, catalogue)));
      }
    }
    return new EscalatorsAnswer(
        wanted.what(),
        wanted.place(),
        people,
        whole ? looked[0] : null,
        whole ? looked[1] : null,
        looked[0] == looked[1],
        order.longest(),
        escalators.size() > people.size());
  }

  @Override
  public ExportTable table(JsonNode answer) {
    return JSON.treeToValue(answer, EscalatorsAnswer.class).table();
  }
}
