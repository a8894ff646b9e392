package mandala.server.schedule;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Value;

/** Costly work that is done within minutes of a change, and rests for long after each time. */
public abstract class WorkWhereChanged implements RecurringWork {

  private static final Logger LOG = LoggerFactory.getLogger(WorkWhereChanged.class);

  private final Clock clock;
  private volatile Instant restsUntil = Instant.MIN;
  private volatile int rest = 20;

  /** Measures its rests by a clock. */
  protected WorkWhereChanged(Clock clock) {
    this.clock = clock;
  }

  /** Sets the minimum pause between two times, as a multiple of what the first of them took. */
  @Autowired
  void setRest(@Value("${mandala.rest}") int times) {
    rest = times;
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
      restsUntil = begun.plus(took.multipliedBy(rest));
      LOG.debug("Did '{}' in {}", name(), took);
    }
  }
}
