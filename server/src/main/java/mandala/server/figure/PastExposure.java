package mandala.server.figure;

import java.sql.Date;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import mandala.core.engine.Engine;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.schedule.WorkWhereChanged;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/**
 * Works out how exposed accounts were before exposure was counted: week by week back to the first
 * revision, from the revision that was in force at the end of that day. What was unused then is not
 * known.
 */
@Component
class PastExposure extends WorkWhereChanged {

  /** How many days lie between two figures. */
  private static final int BETWEEN = 7;

  /** How many days back it goes at most. */
  private static final int MOST = 366;

  /** For how long it works before it rests. */
  private static final Duration AT_ONCE = Duration.ofSeconds(2);

  private final LiveModel model;
  private final History history;
  private final JdbcTemplate database;
  private final Clock clock;
  private final ZoneId zone;

  PastExposure(
      LiveModel model,
      History history,
      JdbcTemplate database,
      Clock clock,
      @Value("${mandala.zone}") ZoneId zone) {
    super(clock);
    this.model = model;
    this.history = history;
    this.database = database;
    this.clock = clock;
    this.zone = zone;
  }

  /**
   * How exposed those at home in an account were.
   *
   * @param exposure the sum over all of them
   */
  record Then(LocalDate day, long exposure) {}

  @Override
  public String name() {
    return "past-exposure";
  }

  @Override
  public String description() {
    return "Works out how exposed accounts were before exposure was counted.";
  }

  @Override
  protected boolean doWhereChanged() {
    long until = System.nanoTime() + AT_ONCE.toNanos();
    boolean any = false;
    while (anotherWeek()) {
      any = true;
      if (System.nanoTime() - until > 0) {
        break;
      }
    }
    return any;
  }

  /** Works out the week before the earliest; returns whether there was one. */
  boolean anotherWeek() {
    LocalDate earliest = earliest();
    if (earliest == null) {
      return false;
    }
    LocalDate day = earliest.minusDays(BETWEEN);
    Instant at = day.plusDays(1).atStartOfDay(zone).toInstant().minus(Duration.ofSeconds(1));
    LiveModel.State state = model.state();
    OptionalLong revision = history.revisionAt(at);
    if (day.isBefore(LocalDate.ofInstant(clock.instant(), zone).minusDays(MOST))
        || revision.isEmpty()) {
      return false;
    }
    Engine engine = history.engineAt(revision.getAsLong(), state);
    if (engine == null) {
      return false;
    }
    Map<PrincipalKey, ExposureFigures.Figure> people =
        ExposureFigures.people(engine.excess(engine, Use.NONE, new UseWindow(at, 1)));
    if (people == null) {
      return false;
    }
    List<Object[]> rows = new ArrayList<>();
    ExposureFigures.accounts(engine, people)
        .forEach(
            (account, it) -> rows.add(new Object[] {account, Date.valueOf(day), it.exposure()}));
    database.batchUpdate(
        "insert into past_exposure (account, day, exposure) values (?, ?, ?)"
            + " on conflict do nothing",
        rows);
    return true;
  }

  /** The first day of which anything is known, null before the first count. */
  private @Nullable LocalDate earliest() {
    return database
        .query(
            "select least((select min(since) from exposure where kind = 'account'),"
                + " (select min(day) from past_exposure))"
                + " where exists (select 1 from exposure where kind = 'account')",
            (row, _) -> row.getDate(1).toLocalDate())
        .stream()
        .findFirst()
        .orElse(null);
  }

  /** {@return what is known of an account}, the earliest first */
  List<Then> of(String account) {
    return database.query(
        "select day, exposure from past_exposure where account = ? order by day",
        (row, _) -> new Then(row.getDate(1).toLocalDate(), row.getLong(2)),
        account);
  }
}
