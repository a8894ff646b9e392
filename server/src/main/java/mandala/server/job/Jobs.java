package mandala.server.job;

import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.function.Function;
import java.util.stream.Collectors;
import mandala.core.model.key.PrincipalKey;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.platform.BackOff;
import mandala.server.platform.Problem;
import mandala.server.schedule.Queue;
import mandala.server.schedule.Queues;
import mandala.server.schedule.Worker;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Begins, does and ends jobs. They wait in a queue in the database; any instance does them, and
 * what an instance leaves in the middle is begun again by another, {@value #ATTEMPTS} times in all.
 */
@Component
public class Jobs implements Worker {

  private static final Logger LOG = LoggerFactory.getLogger(Jobs.class);

  private static final String TASK = "job";

  /** Maximum number of jobs of one person that wait or run. */
  public static final int MOST_OF_ONE = 3;

  /** Maximum number of results kept for one person; the oldest give way. */
  static final int MOST_KEPT = 10;

  /** Maximum number of jobs of all people that wait or run. */
  static final int MOST_OF_ALL = 200;

  /** How often a job is begun that an instance left or that failed. */
  static final int ATTEMPTS = 3;

  private static final BackOff BACK_OFF = new BackOff(Duration.ofSeconds(2), Duration.ofMinutes(1));

  private final Map<String, JobKind> kinds;
  private final JobTables tables;
  private final Queues queues;
  private final RequestContexts contexts;
  private final LiveModel model;
  private final Clock clock;
  private final ApplicationEventPublisher events;

  Jobs(
      List<JobKind> kinds,
      JobTables tables,
      Queues queues,
      RequestContexts contexts,
      LiveModel model,
      Clock clock,
      ApplicationEventPublisher events) {
    this.kinds = kinds.stream().collect(Collectors.toMap(JobKind::name, Function.identity()));
    this.tables = tables;
    this.queues = queues;
    this.contexts = contexts;
    this.model = model;
    this.clock = clock;
    this.events = events;
  }

  /** A job's owner cancelled it, or the server stops: the run ends, and its result is dropped. */
  public static final class Cancelled extends RuntimeException {
    private static final long serialVersionUID = 1;
  }

  /** Begins a job that is given nothing to work on. */
  @Transactional
  public Job begin(JobOrder order) {
    return begin(order, new byte[0]);
  }

  /**
   * Begins a job.
   *
   * @param input what it works on; kept until it ends
   * @throws Problem if its owner has too many that run, or all people together
   */
  @Transactional
  public Job begin(JobOrder order, byte[] input) {
    tables.lock(order.owner());
    List<Job> own = tables.of(order.owner());
    long running = own.stream().filter(it -> !it.isOver()).count();
    if (running >= MOST_OF_ONE) {
      throw Problem.conflict(
          "Too much long work at once",
          "You have "
              + running
              + " jobs running, the most that one person may have. Wait until one ends, or cancel"
              + " one.");
    }
    if (tables.unfinished() >= MOST_OF_ALL) {
      throw Problem.busy(
          MOST_OF_ALL + " jobs wait already, the most that this server takes. Try again later.");
    }
    own.stream().filter(Job::isOver).skip(MOST_KEPT - 1).forEach(it -> tables.delete(it.id()));
    String id = UUID.randomUUID().toString();
    Instant now = clock.instant();
    tables.insert(id, order, now);
    tables.insertInput(id, input);
    queues.put(Queue.WORK, TASK, id, now);
    return tables.find(id, order.owner()).orElseThrow();
  }

  /** {@return the jobs of a person}, the newest first */
  List<Job> of(String owner) {
    return tables.of(owner);
  }

  /**
   * {@return a job of its owner}
   *
   * @throws Problem if there is none, or its result is no longer kept
   */
  Job require(String id, String owner) {
    return tables
        .find(id, owner)
        .orElseThrow(() ->
            Problem.notFound(
                "There is no job '"
                    + id
                    + "' of yours. Results are kept for a day: start it again."));
  }

  /** Cancels a job that waits or runs; forgets one that is over. */
  @Transactional
  public void cancel(String id, String owner) {
    Job job = require(id, owner);
    if (job.isOver()) {
      tables.delete(id);
    } else if (tables.wantCancel(id)) {
      tables.end(id, "cancelled", null, clock.instant());
    }
  }

  @Override
  public Queue queue() {
    return Queue.WORK;
  }

  @Override
  public List<Task<?>> tasks() {
    return List.of(
        Tasks.oneTime(TASK)
            .onFailure(Worker.retrying(BACK_OFF))
            .execute((instance, _) -> run(instance.getId())));
  }

  private void run(String id) {
    JobTables.Taken taken = tables.take(id).orElse(null);
    if (taken == null) {
      // over, or its owner cancelled it while an instance that is no more worked on it
      tables.end(id, "cancelled", null, clock.instant());
      return;
    }
    JobOrder order = taken.order();
    JobKind kind = kinds.get(order.kind());
    if (kind == null || taken.attempt() > ATTEMPTS) {
      fail(id, order, "The server stopped each time while this ran. Start it again.");
      return;
    }
    try {
      RunningJob running = new RunningJob(id, order, tables, contexts, model, clock);
      kind.run(running);
      if (running.hasEnded() || tables.end(id, "done", null, clock.instant())) {
        events.publishEvent(new JobEnded(id, order.owner(), order.title(), true));
      }
    } catch (Cancelled e) {
      if (Thread.currentThread().isInterrupted()) {
        tables.waitAgain(id);
        throw e;
      }
      tables.end(id, "cancelled", null, clock.instant());
    } catch (Problem e) {
      fail(id, order, e.title() + ". " + e.document().getDetail());
    } catch (Exception | Error e) {
      failed(id, taken, e);
    }
  }

  private void failed(String id, JobTables.Taken taken, Throwable e) {
    JobOrder order = taken.order();
    LOG.warn("Job {} ({}), attempt {}, failed", id, order.kind(), taken.attempt(), e);
    if (taken.attempt() < ATTEMPTS) {
      tables.waitAgain(id);
      throw new IllegalStateException("It is tried again", e);
    }
    fail(
        id,
        order,
        "It failed "
            + ATTEMPTS
            + " times. Start it again; if it keeps failing, ask your administrator (reference "
            + id.substring(0, 8)
            + ").");
  }

  private void fail(String id, JobOrder order, String fault) {
    if (tables.end(id, "failed", fault, clock.instant())) {
      JobKind kind = kinds.get(order.kind());
      if (kind != null) {
        kind.failed(order);
      }
      events.publishEvent(new JobEnded(id, order.owner(), order.title(), false));
    }
  }

  /** {@return whether somebody may still read what a job told its viewer} */
  boolean mayStillRead(@Nullable String then, PrincipalKey owner) {
    return then == null || then.equals(RunningJob.mayRead(contexts.context(), owner.value()));
  }

  /** {@return the kind of a job} */
  JobKind kind(String name) {
    JobKind kind = kinds.get(name);
    if (kind == null) {
      throw Problem.notFound("There is no work of the kind '" + name + "'. Start it again.");
    }
    return kind;
  }
}
