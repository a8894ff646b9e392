package mandala.server.schedule;

import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.schedule.Schedule;
import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.TemporalAdjusters;
import org.jspecify.annotations.Nullable;

/**
 * When something recurs: every so often, or at a time of day in a zone, on every day, one day of
 * the week or one day of the month. A time that does not exist on a day, because clocks go forward,
 * is the first one that does; a time that comes twice counts once, when it comes first. A day that
 * a month lacks is its last one.
 *
 * @param every between two runs, where it does not follow the clock; else null
 * @param time of day, null where {@code every} is given
 * @param dayOfWeek on which it recurs, or null
 * @param dayOfMonth from 1 to 31 on which it recurs, or null
 * @param missed what becomes of a run that nobody was there for
 * @param atOnce whether the first run of all comes when a server first starts
 */
public record Timetable(
    @Nullable Duration every,
    @Nullable LocalTime time,
    ZoneId zone,
    @Nullable DayOfWeek dayOfWeek,
    @Nullable Integer dayOfMonth,
    Missed missed,
    boolean atOnce)
    implements Schedule {

  /** What becomes of a run that was due while no server ran. */
  public enum Missed {
    /** It runs once as soon as a server runs, however many were missed. */
    CATCH_UP,
    /** It is left out where it is more than {@link #LATE} late; the next one runs. */
    SKIP
  }

  /** How late a run may begin that is not caught up. */
  public static final Duration LATE = Duration.ofHours(1);

  /** {@return every so often, caught up} */
  public static Timetable every(Duration every) {
    return new Timetable(every, null, ZoneId.of("UTC"), null, null, Missed.CATCH_UP, false);
  }

  /** {@return every so often, caught up, at once at first} */
  public static Timetable everyFromNow(Duration every) {
    return new Timetable(every, null, ZoneId.of("UTC"), null, null, Missed.CATCH_UP, true);
  }

  /** {@return every day at a time} */
  public static Timetable daily(LocalTime time, ZoneId zone, Missed missed) {
    return new Timetable(null, time, zone, null, null, missed, false);
  }

  /** {@return every week on a day at a time} */
  public static Timetable weekly(DayOfWeek day, LocalTime time, ZoneId zone, Missed missed) {
    return new Timetable(null, time, zone, day, null, missed, false);
  }

  /** {@return every month on a day from 1 to 31 at a time} */
  public static Timetable monthly(int day, LocalTime time, ZoneId zone, Missed missed) {
    return new Timetable(null, time, zone, null, day, missed, false);
  }

  /** {@return the first instant after another one at which it is due} */
  public Instant after(Instant instant) {
    if (every != null || time == null) {
      return instant.plus(every == null ? Duration.ofDays(1) : every);
    }
    LocalDate day = instant.atZone(zone).toLocalDate().minusDays(1);
    while (true) {
      LocalDate on = onOrAfter(day);
      Instant due = on.atTime(time).atZone(zone).toInstant();
      if (due.isAfter(instant)) {
        return due;
      }
      day = on.plusDays(1);
    }
  }

  private LocalDate onOrAfter(LocalDate day) {
    if (dayOfWeek != null) {
      return day.with(TemporalAdjusters.nextOrSame(dayOfWeek));
    }
    if (dayOfMonth != null) {
      LocalDate here = inMonth(day);
      return here.isBefore(day) ? inMonth(day.withDayOfMonth(1).plusMonths(1)) : here;
    }
    return day;
  }

  private LocalDate inMonth(LocalDate day) {
    int wanted = dayOfMonth == null ? 1 : dayOfMonth;
    return day.withDayOfMonth(Math.min(wanted, day.lengthOfMonth()));
  }

  /** {@return whether a run that was due then is left out now} */
  boolean isLeftOut(Instant due, Instant now) {
    return missed == Missed.SKIP && due.plus(LATE).isBefore(now);
  }

  @Override
  public Instant getInitialExecutionTime(Instant now) {
    return atOnce ? now : after(now);
  }

  @Override
  public Instant getNextExecutionTime(ExecutionComplete complete) {
    return after(complete.getTimeDone());
  }

  @Override
  public boolean isDeterministic() {
    return every == null;
  }
}
