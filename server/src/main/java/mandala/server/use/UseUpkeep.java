package mandala.server.use;

import java.sql.Date;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.YearMonth;
import java.time.ZoneOffset;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** Rolls up use and deletes it, as the policy says; takes up strangers that became known. */
@Component
class UseUpkeep implements RecurringWork {

  private final UseMonths months;
  private final UsePolicy policy;
  private final UseStrangers strangers;
  private final JdbcTemplate database;
  private final Clock clock;

  UseUpkeep(
      UseMonths months,
      UsePolicy policy,
      UseStrangers strangers,
      JdbcTemplate database,
      Clock clock) {
    this.months = months;
    this.policy = policy;
    this.strangers = strangers;
    this.database = database;
    this.clock = clock;
  }

  @Override
  public String name() {
    return "use-upkeep";
  }

  @Override
  public String description() {
    return "Rolls up and deletes use as the policy says; takes up records that became known.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.every(Duration.ofHours(1));
  }

  @Override
  public void run(Instant due) {
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    UsePolicy.Rule rule = policy.rule();
    months
        .all()
        .forEach((month, rolled) -> {
          if (month.isBefore(YearMonth.from(rule.keptSince(today)))) {
            months.drop(month);
          } else if (!rolled && rule.isRolled(month, today)) {
            months.roll(month);
          }
        });
    database.update(
        "delete from use_stranger where arrived < ? or day < ?",
        Date.valueOf(today.minusDays(rule.strangersKept())),
        Date.valueOf(rule.keptSince(today)));
    database.update(
        "delete from use_batch where at < ?",
        due.minus(Duration.ofDays(rule.kept())).atOffset(ZoneOffset.UTC));
    strangers.takeUp();
  }
}
