package mandala.server.token;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import mandala.server.platform.Buckets;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Deletes tokens that ended long ago, and counts of limits that have no effect any more. */
@Component
class OldTokens implements RecurringWork {

  /** For how long a token is kept that ended; the trail names it for longer. */
  static final Duration ENDED = Duration.ofDays(365);

  private final JdbcTemplate database;
  private final Buckets limits;
  private final Clock clock;

  OldTokens(JdbcTemplate database, Buckets limits, Clock clock) {
    this.database = database;
    this.limits = limits;
    this.clock = clock;
  }

  @Override
  public String name() {
    return "delete-old-tokens";
  }

  @Override
  public String description() {
    return "Deletes tokens a year after their end, and old counts of sign-ins and calls.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.every(Duration.ofHours(1));
  }

  @Override
  public void run(Instant due) {
    database.update(
        "delete from token where coalesce(revoked_at, ends_at) < ?",
        clock.instant().minus(ENDED).atOffset(ZoneOffset.UTC));
    limits.deleteFull();
  }
}
