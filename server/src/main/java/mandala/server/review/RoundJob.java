package mandala.server.review;

import java.util.List;
import mandala.server.authorization.RequestContext;
import mandala.server.job.JobKind;
import mandala.server.job.JobRun;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** Makes a round: finds its items and who decides them, and keeps all of it or nothing. */
@Component
class RoundJob implements JobKind {

  static final String NAME = "review-round";

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final RoundDesk desk;
  private final RoundBuild build;
  private final ReviewStore store;
  private final TransactionTemplate transactions;

  RoundJob(RoundDesk desk, RoundBuild build, ReviewStore store, TransactionTemplate transactions) {
    this.desk = desk;
    this.build = build;
    this.store = store;
    this.transactions = transactions;
  }

  /** Which round it is, and how many items it has. */
  record Made(long round, int items) {}

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) {
    RoundOrder order = JSON.treeToValue(run.order().details(), RoundOrder.class);
    RequestContext context = run.context(null, null);
    RoundDesk.requireRun(order, context);
    List<RoundItem> items =
        build.items(
            order,
            context.state(),
            context.readPolicy().now(),
            (done, of) -> {
              run.progress(done, of);
              return true;
            });
    if (items.isEmpty()) {
      throw Problem.conflict(
          "Nothing is in this round", "Choose other contents, a lower risk or another account.");
    }
    transactions.executeWithoutResult(_ -> {
      long number =
          store.add(
              order, run.order().owner(), Round.State.MAKING, context.readPolicy().now(), null);
      store.write(number, items);
      store.opened(number, context.state().revision());
      Round round = store.round(number).orElseThrow();
      desk.note(order, "Began", context);
      desk.tellAll(round, items);
      run.end(new Made(number, items.size()));
    });
  }
}
