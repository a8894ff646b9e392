package mandala.server.schedule;

import com.github.kagkarlsson.scheduler.task.Task;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.server.platform.BackOff;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Does what recurs, and keeps how each went last. */
@Component
public class Recurrences implements Worker {

  private static final Logger LOG = LoggerFactory.getLogger(Recurrences.class);
  private static final BackOff BACK_OFF = new BackOff(Duration.ofSeconds(30), Duration.ofHours(1));

  private final List<RecurringWork> works;
  private final JdbcTemplate database;
  private final Clock clock;

  Recurrences(List<RecurringWork> works, JdbcTemplate database, Clock clock) {
    this.works = works;
    this.database = database;
    this.clock = clock;
  }

  @Override
  public Queue queue() {
    return Queue.TASKS;
  }

  @Override
  public List<Task<?>> tasks() {
    return works.stream().<Task<?>>map(this::task).toList();
  }

  private Task<Void> task(RecurringWork work) {
    return Tasks.recurring(work.name(), work.timetable())
        .onFailure(Worker.retrying(BACK_OFF))
        .execute((_, context) -> run(work, context.getExecution().executionTime));
  }

  private void run(RecurringWork work, Instant due) {
    Instant now = clock.instant();
    if (work.timetable().isLeftOut(due, now)) {
      keep(work.name(), due, now, "skipped", "It was due while no server ran.");
      return;
    }
    try {
      work.run(due);
    } catch (RuntimeException e) {
      LOG.warn("{} failed and is tried again: {}", work.name(), e.toString());
      keep(work.name(), due, now, "failed", e.getClass().getSimpleName());
      throw e;
    }
    keep(work.name(), due, now, "done", null);
  }

  private void keep(
      String name, Instant due, Instant ran, String outcome, @Nullable String remark) {
    database.update(
        """
        insert into recurring_work (name, due_at, ran_at, outcome, remark) values (?, ?, ?, ?, ?)
        on conflict (name) do update set due_at = excluded.due_at, ran_at = excluded.ran_at,
          outcome = excluded.outcome, remark = excluded.remark
        """,
        name,
        due.atOffset(ZoneOffset.UTC),
        ran.atOffset(ZoneOffset.UTC),
        outcome,
        remark);
  }

  /**
   * Something that recurs.
   *
   * @param next when it is due next, null while it waits for its first server
   * @param last when it ran last, or null
   * @param outcome {@code done}, {@code failed} or {@code skipped}; null where it never ran
   */
  public record Recurrence(
      String name,
      String description,
      @Nullable Instant next,
      @Nullable Instant last,
      @Nullable String outcome,
      @Nullable String remark) {}

  /** {@return what recurs}, by name */
  public List<Recurrence> all() {
    Map<String, Instant> next = new HashMap<>();
    database.query(
        "select task_name, execution_time from task_queue where task_instance = 'recurring'",
        row -> {
          next.put(row.getString(1), row.getTimestamp(2).toInstant());
        });
    Map<String, Recurrence> last = new HashMap<>();
    database.query(
        "select name, ran_at, outcome, remark from recurring_work",
        row -> {
          String name = row.getString(1);
          last.put(
              name,
              new Recurrence(
                  name,
                  "",
                  null,
                  row.getTimestamp(2).toInstant(),
                  row.getString(3),
                  row.getString(4)));
        });
    return works.stream()
        .map(it -> {
          Recurrence was = last.get(it.name());
          return new Recurrence(
              it.name(),
              it.description(),
              next.get(it.name()),
              was == null ? null : was.last(),
              was == null ? null : was.outcome(),
              was == null ? null : was.remark());
        })
        .sorted(Comparator.comparing(Recurrence::name))
        .toList();
  }
}
