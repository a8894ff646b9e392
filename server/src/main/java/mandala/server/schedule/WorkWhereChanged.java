package mandala.server.schedule;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Costly work that is done within minutes of a change, and rests for long after each time. */
public abstract class WorkWhereChanged implements RecurringWork {

  private static final Logger LOG = LoggerFactory.getLogger(WorkWhereChanged.class);

  /** Minimum pause between two times, in times that the first of them took. */
  private static final int REST = 20;

  private final Clock clock;
  private volatile Instant restsUntil = Instant.MIN;

  /** Measures its rests by a clock. */
  protected WorkWhereChanged(Clock clock) {
    this.clock = clock;
  }

  /** {@return whether anything was another than the last time}: then it was done */
  protected abstract boolean doWhereChanged();

  @Override
  public Timetable timetable() {
    return Timetable.everyFromNow(Duration.ofMinutes(1));
  }

  @Override
  public void run(Instant due) {
    Instant begun = clock.instant();
    if (begun.isBefore(restsUntil)) {
      return;
    }
    long nanos = System.nanoTime();
    if (doWhereChanged()) {
      Duration took = Duration.ofNanos(System.nanoTime() - nanos);
      restsUntil = begun.plus(took.multipliedBy(REST));
      LOG.debug("Did '{}' in {}", name(), took);
    }
  }
}
