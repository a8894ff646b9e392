package mandala.server.excess;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.Collection;
import java.util.OptionalLong;
import mandala.core.engine.Engine;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.History;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.use.UsePolicy;
import mandala.server.use.UseReadings;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Begins studies of excess on a model, with its past and the use that is kept. */
@Component
public class ExcessStudies {

  private final History history;
  private final UseReadings readings;
  private final UsePolicy policy;
  private final Clock clock;

  ExcessStudies(History history, UseReadings readings, UsePolicy policy, Clock clock) {
    this.history = history;
    this.readings = readings;
    this.policy = policy;
    this.clock = clock;
  }

  /**
   * What a study of everybody rests on: while it is the same, so is its answer on a day.
   *
   * @param use which use there is
   * @param days of the window
   */
  public record Basis(long revision, String use, int days, LocalDate day) {

    /** {@return the basis that the first four columns of a row say} */
    public static Basis of(ResultSet row) throws SQLException {
      return new Basis(
          row.getLong(1), row.getString(2), row.getInt(3), row.getDate(4).toLocalDate());
    }

    /** {@return whether what rests on this needs no second look for another basis} */
    public boolean sawAsMuchAs(Basis other) {
      return equals(other) || revision > other.revision || day.isAfter(other.day);
    }
  }

  /** {@return what a study of everybody rests on now} */
  public Basis basis(LiveModel.State state, LocalDate today) {
    return new Basis(state.revision(), readings.basis(), policy.rule().window(), today);
  }

  /** {@return a study of everybody in the window of a basis that ends at an instant} */
  public Everybody everybody(LiveModel.State state, Basis basis, Instant at) {
    UseWindow window = new UseWindow(at.truncatedTo(ChronoUnit.SECONDS), basis.days());
    return new Everybody(window, past(window, state, state).engine(), readings.all(window));
  }

  /**
   * What a study of everybody takes.
   *
   * @param then the engine of the model in force when the window began
   */
  public record Everybody(UseWindow window, Engine then, Use use) {}

  /**
   * The model when a window began.
   *
   * @param shorter whether it is the first of which anything is known, younger than the window
   */
  public record Past(Engine engine, boolean shorter) {}

  /**
   * {@return a window}
   *
   * @param days how many, null for those of the policy
   * @throws Problem if it is none, or use is not kept for so long
   */
  public UseWindow window(@Nullable Integer days, Instant at) {
    UsePolicy.Rule rule = policy.rule();
    int asked = days == null ? rule.window() : days;
    if (asked < 1 || asked > UseWindow.MOST) {
      throw Problem.badRequest(
          asked + " days are no window",
          "Choose a number of days from 1 to " + UseWindow.MOST + ".");
    }
    UseWindow window = new UseWindow(at, asked);
    LocalDate since = rule.keptSince(LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC));
    if (window.first().isBefore(since)) {
      long most = ChronoUnit.DAYS.between(since, window.last()) + 1;
      throw Problem.badRequest(
          "The window is longer than what is kept",
          "It begins on "
              + window.first()
              + "; use is kept since "
              + since
              + (most < 1
                  ? ". Choose a later time."
                  : ". Choose at most " + most + " days, or a later time."));
    }
    return window;
  }

  /** {@return the model in force when a window began} */
  public Past past(UseWindow window, LiveModel.State asked, LiveModel.State newest) {
    OptionalLong then = history.revisionAt(window.youngSince());
    long number = Math.min(then.orElse(1), Math.max(1, asked.revision()));
    Engine engine = number == asked.revision() ? asked.engine() : history.engineAt(number, newest);
    return new Past(engine == null ? asked.engine() : engine, then.isEmpty());
  }

  /** {@return a study that is asked about some principals only} */
  public ExcessStudy of(
      Collection<PrincipalKey> people, UseWindow window, Engine engine, Past past) {
    return engine.excess(past.engine(), readings.of(people, window), window);
  }

  /** {@return what some principals used as far back as use is kept} */
  Use ever(Collection<PrincipalKey> people, Instant at) {
    LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    LocalDate last = LocalDate.ofInstant(at, ZoneOffset.UTC);
    long days = ChronoUnit.DAYS.between(policy.rule().keptSince(today), last) + 1;
    return readings.of(people, new UseWindow(at, Math.clamp(days, 1, UseWindow.MOST)));
  }

  /** {@return the first day of which use is kept} */
  LocalDate keptSince() {
    return policy.rule().keptSince(LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC));
  }

  /** {@return use of some principals within a window} */
  Use use(Collection<PrincipalKey> people, UseWindow window) {
    return readings.of(people, window);
  }
}
