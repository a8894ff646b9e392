package mandala.server.job;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Set;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.Departure;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.springframework.stereotype.Component;

/** Deletes results that are old, and all that belongs to somebody who is removed. */
@Component
class JobHousekeeping implements RecurringWork, Departure {

  private final JobTables tables;
  private final Clock clock;

  JobHousekeeping(JobTables tables, Clock clock) {
    this.tables = tables;
    this.clock = clock;
  }

  @Override
  public String name() {
    return "delete-old-results";
  }

  @Override
  public String description() {
    return "Deletes the results of long work a day after it ended.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.every(Duration.ofMinutes(15));
  }

  @Override
  public void run(Instant due) {
    tables.deleteEndedBefore(clock.instant().minus(JobTables.KEPT));
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    gone.forEach(it -> tables.deleteOf(it.value()));
  }
}
