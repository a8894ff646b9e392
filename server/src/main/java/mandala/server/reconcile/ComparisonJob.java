package mandala.server.reconcile;

import java.util.List;
import mandala.core.model.key.PrincipalKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.job.JobKind;
import mandala.server.job.JobRun;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/**
 * Compares what a system holds with the model in force: a table that came in, or the newest one
 * again. All of it is kept, or nothing.
 */
@Component
class ComparisonJob implements JobKind {

  static final String NAME = "system-comparison";

  private static final JsonMapper JSON = JsonMapper.builder().build();

  private final SystemStore systems;
  private final SystemDesk desk;
  private final Comparer comparer;
  private final Trail trail;

  ComparisonJob(SystemStore systems, SystemDesk desk, Comparer comparer, Trail trail) {
    this.systems = systems;
    this.desk = desk;
    this.comparer = comparer;
    this.trail = trail;
  }

  /**
   * What is compared; a table that came in is the job's input.
   *
   * @param sent whether one came in
   * @param address from where it was sent
   */
  record Order(String system, boolean sent, @Nullable String address) {}

  /** Which comparison it was. */
  record Compared(int number) {}

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) {
    Order order = JSON.treeToValue(run.order().details(), Order.class);
    RequestContext context = run.context(null, null);
    ConnectedSystem system = desk.requireManaged(order.system(), context);
    int version = TermsDesk.requireInForce(system);
    byte[] table = order.sent() ? run.input() : systems.held(system.key());
    if (table == null) {
      throw Problem.conflict(
          "Nothing came in of “" + system.name() + "” yet",
          "Bring in a table of what it holds, then compare.");
    }
    run.progress(0, -1);
    comparer.compare(
        system,
        version,
        table,
        order.sent(),
        run.order().owner(),
        context.state(),
        (number, lines) -> {
          run.progress(1, -1);
          trail.write(List.of(line(order, run, system, lines, context)));
          run.end(new Compared(number));
        });
  }

  private static AuditEvent line(
      Order order, JobRun run, ConnectedSystem system, int lines, RequestContext context) {
    String owner = run.order().owner();
    PrincipalKey key = new PrincipalKey(owner);
    var who = context.state().engine().catalogue().principals().get(key);
    return AuditEvent.of(
        AuditEvent.Act.IMPORTED,
        owner,
        who == null ? null : who.about().nameOr(key),
        List.of(system.account().value()),
        "Compared “"
            + system.name()
            + "” with the model"
            + (order.sent() ? ", of " + lines + " lines that came in" : " again"),
        order.address());
  }
}
