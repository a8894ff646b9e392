package mandala.server.figure;

import java.sql.Date;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.key.AccountKey;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.schedule.RecurringWork;
import mandala.server.schedule.Timetable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Keeps the figures of each account for each day, as they were at its end; those of today as they
 * are. What was missed within a month is counted from the history of the model.
 */
@Component
class DailyFigures implements RecurringWork {

  /** How many days are shown. */
  static final int MONTH = 31;

  private static final Duration BETWEEN = Duration.ofHours(1);

  /** What is older is deleted. */
  private static final int KEPT = 400;

  private final LiveModel model;
  private final History history;
  private final AccountCounts counts;
  private final JdbcTemplate database;
  private final TransactionTemplate transactions;
  private final Clock clock;
  private final ZoneId zone;
  private final int past;

  DailyFigures(
      LiveModel model,
      History history,
      AccountCounts counts,
      JdbcTemplate database,
      TransactionTemplate transactions,
      Clock clock,
      @Value("${mandala.zone}") ZoneId zone,
      @Value("${mandala.figures.past}") int past) {
    this.past = past;
    this.model = model;
    this.history = history;
    this.counts = counts;
    this.database = database;
    this.transactions = transactions;
    this.clock = clock;
    this.zone = zone;
  }

  /** What an account had on a day. */
  record Day(LocalDate day, AccountCounts.Counts counts) {}

  @Override
  public String name() {
    return "daily-figures";
  }

  @Override
  public String description() {
    return "Counts the people, guests, services and findings of each account for each day.";
  }

  @Override
  public Timetable timetable() {
    return Timetable.everyFromNow(BETWEEN);
  }

  @Override
  public void run(Instant due) {
    LiveModel.State state = model.state();
    Instant now = clock.instant().truncatedTo(ChronoUnit.SECONDS);
    LocalDate today = LocalDate.ofInstant(now, zone);
    Set<LocalDate> whole = whole();
    today
        .minusDays(past)
        .datesUntil(today)
        .filter(day -> !whole.contains(day))
        .forEach(day -> {
          Instant end = day.plusDays(1).atStartOfDay(zone).toInstant().minusSeconds(1);
          OptionalLong revision = history.revisionAt(end);
          Engine then = revision.isEmpty() ? null : history.engineAt(revision.getAsLong(), state);
          if (then != null) {
            keep(
                day,
                true,
                counts.of(LiveModel.State.of(revision.getAsLong(), state.demo(), then), end));
          }
        });
    keep(today, false, counts.of(state, now));
    String[] accounts =
        state.engine().catalogue().accounts().keySet().stream()
            .map(AccountKey::value)
            .toArray(String[]::new);
    database.update(
        "delete from daily_figures where account <> all (?) or day < ?",
        accounts,
        Date.valueOf(today.minusDays(KEPT)));
  }

  private Set<LocalDate> whole() {
    return new HashSet<>(
        database.query(
            "select distinct day from daily_figures where whole",
            (row, _) -> row.getDate(1).toLocalDate()));
  }

  private void keep(LocalDate day, boolean whole, Map<AccountKey, AccountCounts.Counts> all) {
    transactions.executeWithoutResult(_ ->
        database.batchUpdate(
            """
            insert into daily_figures
              (account, day, whole, people, guests, services, dormant, findings)
            values (?, ?, ?, ?, ?, ?, ?, ?)
            on conflict (account, day) do update set whole = excluded.whole,
              people = excluded.people, guests = excluded.guests, services = excluded.services,
              dormant = excluded.dormant, findings = excluded.findings
            where not daily_figures.whole
            """,
            all.entrySet().stream()
                .map(it ->
                    new Object[] {
                      it.getKey().value(),
                      Date.valueOf(day),
                      whole,
                      it.getValue().people(),
                      it.getValue().guests(),
                      it.getValue().services(),
                      it.getValue().dormant(),
                      it.getValue().findings()
                    })
                .toList()));
  }

  /**
   * {@return the figures of an account over the last month}, by day; days without any are left out
   */
  List<Day> ofMonth(AccountKey account) {
    LocalDate today = LocalDate.ofInstant(clock.instant(), zone);
    return database.query(
        "select day, people, guests, services, dormant, findings from daily_figures"
            + " where account = ? and day > ? and day <= ? order by day",
        (row, _) ->
            new Day(
                row.getDate(1).toLocalDate(),
                new AccountCounts.Counts(
                    row.getInt(2), row.getInt(3), row.getInt(4), row.getInt(5), row.getInt(6))),
        account.value(),
        Date.valueOf(today.minusDays(MONTH)),
        Date.valueOf(today));
  }
}
