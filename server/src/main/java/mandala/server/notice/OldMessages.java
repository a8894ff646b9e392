package mandala.server.notice;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import mandala.server.mail.Mails;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Deletes what people were told long ago. */
@Component
class OldMessages implements RecurringWork {

  /** For how long mail is kept that went out, or stays in the outbox. */
  static final Duration MAIL = Duration.ofDays(90);

  /** For how long notices are kept, and that somebody was told of something. */
  static final Duration NOTICES = Duration.ofDays(365);

  private final Mails mails;
  private final JdbcTemplate database;
  private final Clock clock;

  OldMessages(Mails mails, JdbcTemplate database, Clock clock) {
    this.mails = mails;
    this.database = database;
    this.clock = clock;
  }

  @Override
  public String name() {
    return "delete-old-messages";
  }

  @Override
  public String description() {
    return "Deletes mail after 90 days and notices after a year.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.every(Duration.ofHours(6));
  }

  @Override
  public void run(Instant due) {
    Instant now = clock.instant();
    mails.deleteMadeBefore(now.minus(MAIL));
    var before = now.minus(NOTICES).atOffset(ZoneOffset.UTC);
    database.update("delete from notice where at < ?", before);
    database.update("delete from told_once where at < ?", before);
  }
}
