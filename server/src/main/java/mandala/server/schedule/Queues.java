package mandala.server.schedule;

import com.github.kagkarlsson.scheduler.SchedulerClient;
import com.github.kagkarlsson.scheduler.task.TaskInstance;
import java.time.Instant;
import java.util.EnumMap;
import java.util.Map;
import java.util.Objects;
import javax.sql.DataSource;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.stereotype.Component;

/**
 * Puts work into queues. What is put in within a transaction is there when the transaction commits,
 * and not where it is rolled back.
 */
@Component
public class Queues {

  private final Map<Queue, SchedulerClient> clients = new EnumMap<>(Queue.class);
  private final ApplicationEventPublisher events;

  Queues(DataSource source, ApplicationEventPublisher events) {
    this.events = events;
    for (Queue queue : Queue.values()) {
      clients.put(
          queue,
          SchedulerClient.Builder.create(new TransactionAwareDataSourceProxy(source))
              .tableName(queue.table())
              .build());
    }
  }

  /** That something was put into a queue. */
  record Added(Queue queue) {}

  /** Has work done at an instant; where it waits already, at this instant instead. */
  public void put(Queue queue, String task, String id, Instant at) {
    client(queue)
        .schedule(
            new TaskInstance<>(task, id),
            at,
            SchedulerClient.ScheduleOptions.WHEN_EXISTS_RESCHEDULE);
    events.publishEvent(new Added(queue));
  }

  private SchedulerClient client(Queue queue) {
    return Objects.requireNonNull(clients.get(queue));
  }
}
