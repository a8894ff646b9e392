package mandala.server.schedule;

import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.SchedulerBuilder;
import com.github.kagkarlsson.scheduler.SchedulerName;
import com.github.kagkarlsson.scheduler.task.OnStartup;
import com.github.kagkarlsson.scheduler.task.Task;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import javax.sql.DataSource;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionalEventListener;

/**
 * Takes from the queues while the server runs. All instances on one database share them: a row is
 * taken by one. What an instance was doing when it died is taken up by another one when its
 * heartbeats stay away.
 */
@Component
class Schedulers implements SmartLifecycle {

  private static final Duration POLL = Duration.ofSeconds(1);
  private static final Duration HEARTBEAT = Duration.ofSeconds(5);
  private static final int MISSED_HEARTBEATS = 4;
  private static final Duration LONGEST_STOP = Duration.ofSeconds(5);

  private final DataSource source;
  private final List<Worker> workers;
  private final Clock clock;
  private final boolean onlyVerifying;
  private final Map<Queue, Scheduler> running = new EnumMap<>(Queue.class);

  Schedulers(
      DataSource source,
      List<Worker> workers,
      Clock clock,
      @Value("${mandala.verify-trail:false}") boolean onlyVerifying) {
    this.source = source;
    this.workers = workers;
    this.clock = clock;
    this.onlyVerifying = onlyVerifying;
  }

  @Override
  public boolean isAutoStartup() {
    return !onlyVerifying;
  }

  @Override
  public synchronized void start() {
    if (isRunning()) {
      return;
    }
    for (Queue queue : Queue.values()) {
      Scheduler scheduler = scheduler(queue);
      running.put(queue, scheduler);
      scheduler.start();
    }
  }

  private Scheduler scheduler(Queue queue) {
    List<Task<?>> tasks =
        workers.stream()
            .filter(it -> it.queue() == queue)
            .flatMap(it -> it.tasks().stream())
            .toList();
    return new Builder(source, tasks)
        .onStart(tasks)
        .schedulerName(new SchedulerName.Fixed(queue.table() + "-" + UUID.randomUUID()))
        .tableName(queue.table())
        .threads(queue.threads())
        .pollingInterval(POLL)
        .heartbeatInterval(HEARTBEAT)
        .missedHeartbeatsLimit(MISSED_HEARTBEATS)
        .shutdownMaxWait(LONGEST_STOP)
        .alwaysPersistTimestampInUTC()
        .build();
  }

  /** The library's builder, with this server's clock. */
  private final class Builder extends SchedulerBuilder {

    Builder(DataSource source, List<Task<?>> tasks) {
      super(source, tasks);
      this.clock = Schedulers.this.clock::instant;
    }

    /** Has tasks that recur put themselves into the queue. */
    SchedulerBuilder onStart(List<Task<?>> tasks) {
      List<OnStartup> recurring = new ArrayList<>();
      tasks.forEach(it -> {
        if (it instanceof OnStartup each) {
          recurring.add(each);
        }
      });
      startTasks.addAll(recurring);
      return this;
    }
  }

  @Override
  public synchronized void stop() {
    running.values().forEach(Scheduler::stop);
    running.clear();
  }

  @Override
  public synchronized boolean isRunning() {
    return !running.isEmpty();
  }

  /** What was put in here is looked at here at once. */
  @TransactionalEventListener(fallbackExecution = true)
  synchronized void added(Queues.Added added) {
    Scheduler scheduler = running.get(added.queue());
    if (scheduler != null) {
      scheduler.triggerCheckForDueExecutions();
    }
  }
}
