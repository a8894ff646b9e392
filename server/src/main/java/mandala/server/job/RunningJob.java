package mandala.server.job;

import java.io.OutputStream;
import java.time.Clock;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/** A job that runs on this instance. */
final class RunningJob implements JobRun {

  /** Progress is kept at most this often, in nanoseconds. */
  private static final long BETWEEN_NANOS = 200_000_000;

  private final String id;
  private final JobOrder order;
  private final JobTables tables;
  private final RequestContexts contexts;
  private final LiveModel model;
  private final Clock clock;
  private long next = System.nanoTime();
  private boolean ended;

  RunningJob(
      String id,
      JobOrder order,
      JobTables tables,
      RequestContexts contexts,
      LiveModel model,
      Clock clock) {
    this.id = id;
    this.order = order;
    this.tables = tables;
    this.contexts = contexts;
    this.model = model;
    this.clock = clock;
  }

  @Override
  public JobOrder order() {
    return order;
  }

  @Override
  public RequestContext context(@Nullable String draft, @Nullable Long revision) {
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    Session session = order.session(now);
    if (!model.engine().isActive(new PrincipalKey(order.owner()), now)
        || !model.engine().isActive(session.principal(), session.at())) {
      throw Problem.forbidden(
          "'" + session.principal() + "' is no longer active. Ask a directory administrator.");
    }
    return contexts.of(session, draft, revision);
  }

  @Override
  public synchronized void progress(long done, long of) {
    if (Thread.currentThread().isInterrupted()) {
      throw new Jobs.Cancelled();
    }
    long now = System.nanoTime();
    if (now - next < 0 && done != of) {
      return;
    }
    next = now + BETWEEN_NANOS;
    if (!tables.progress(id, done, of)) {
      throw new Jobs.Cancelled();
    }
  }

  @Override
  public byte[] input() {
    return tables.input(id);
  }

  @Override
  public void end(Object answer) {
    if (!tables.endWith(id, answer, clock.instant())) {
      throw new Jobs.Cancelled();
    }
    ended = true;
  }

  /** {@return whether it ended itself} */
  boolean hasEnded() {
    return ended;
  }

  @Override
  public void answer(Object answer) {
    tables.answer(id, answer, mayRead());
  }

  @Override
  public OutputStream file(String name, String mediaType) {
    return tables.file(id, name, mediaType, mayRead());
  }

  private String mayRead() {
    return mayRead(context(null, null), order.owner());
  }

  /**
   * {@return what tells whether somebody may still read a result}: whose eyes saw it, and where
   * these may read, in the model in force
   */
  static String mayRead(RequestContext context, String owner) {
    return owner + " " + context.readPolicy().extent();
  }
}
