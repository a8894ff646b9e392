package mandala.server.use;

import java.time.LocalDate;
import java.time.YearMonth;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** How long use is kept, and what window is asked about where a question names none. */
@Component
public class UsePolicy {

  private final JdbcTemplate database;

  UsePolicy(JdbcTemplate database) {
    this.database = database;
  }

  /**
   * The policy, in days.
   *
   * @param rolledAfter after how many days a month that is over is kept as a mask of its days
   * @param kept after how many days use is deleted, by whole months
   * @param strangersKept after how many days records are deleted that name what the model lacks
   * @param window days of the window where a question names none
   */
  public record Rule(int rolledAfter, int kept, int strangersKept, int window) {

    /** {@return the first day of which use is kept} */
    public LocalDate keptSince(LocalDate today) {
      return YearMonth.from(today.minusDays(kept)).atDay(1);
    }

    boolean isRolled(YearMonth month, LocalDate today) {
      return month.atEndOfMonth().isBefore(today.minusDays(rolledAfter));
    }
  }

  /** {@return the policy in force} */
  public Rule rule() {
    return database
        .query(
            "select rolled_after, kept, strangers_kept, window_days from use_policy",
            (row, _) -> new Rule(row.getInt(1), row.getInt(2), row.getInt(3), row.getInt(4)))
        .getFirst();
  }

  void set(Rule rule) {
    database.update(
        "update use_policy set rolled_after = ?, kept = ?, strangers_kept = ?, window_days = ?",
        rule.rolledAfter(),
        rule.kept(),
        rule.strangersKept(),
        rule.window());
  }
}
