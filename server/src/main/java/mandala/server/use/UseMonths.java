package mandala.server.use;

import java.sql.Date;
import java.time.LocalDate;
import java.time.YearMonth;
import java.util.Collection;
import java.util.HashMap;
import java.util.Map;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The months of use: each is a partition, by day while it is new, then rolled up to masks of days,
 * then dropped. Who changes use holds the lock of {@link #lock} until their transaction ends.
 */
@Component
class UseMonths {

  /** Any number that no other lock has. */
  private static final long LOCK = 7_204_118_346L;

  private final JdbcTemplate database;
  private final TransactionTemplate alone;

  UseMonths(JdbcTemplate database, PlatformTransactionManager transactions) {
    this.database = database;
    alone = new TransactionTemplate(transactions);
    alone.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
  }

  /** Waits until nobody else changes use. */
  void lock() {
    database.query("select pg_advisory_xact_lock(?)", _ -> {}, LOCK);
  }

  /** {@return whether each month that is kept is rolled up} */
  Map<YearMonth, Boolean> all() {
    Map<YearMonth, Boolean> months = new HashMap<>();
    database.query(
        "select month, rolled from use_partition",
        row -> {
          months.put(YearMonth.from(row.getDate(1).toLocalDate()), row.getBoolean(2));
        });
    return months;
  }

  /** Makes the partitions of some months, in a transaction of its own, where there are none. */
  void prepare(Collection<YearMonth> months, UsePolicy.Rule rule, LocalDate today) {
    Map<YearMonth, Boolean> known = all();
    for (YearMonth month : months) {
      if (!known.containsKey(month)) {
        alone.executeWithoutResult(_ -> {
          lock();
          if (!all().containsKey(month)) {
            make(month, rule.isRolled(month, today));
          }
        });
      }
    }
  }

  private void make(YearMonth month, boolean rolled) {
    String parent = rolled ? "use_month" : "use_day";
    database.execute(
        "create table "
            + name(parent, month)
            + " partition of "
            + parent
            + " for values from ('"
            + month.atDay(1)
            + "') to ('"
            + month.plusMonths(1).atDay(1)
            + "')");
    database.update(
        "insert into use_partition (month, rolled) values (?, ?)",
        Date.valueOf(month.atDay(1)),
        rolled);
  }

  private static String name(String parent, YearMonth month) {
    return parent + "_" + month.toString().replace('-', '_');
  }

  /** Rolls up a month that is kept by day. */
  void roll(YearMonth month) {
    alone.executeWithoutResult(_ -> {
      lock();
      if (!Boolean.FALSE.equals(all().get(month))) {
        return;
      }
      String days = name("use_day", month);
      String masks = name("use_month", month);
      LocalDate first = month.atDay(1);
      // filled before it is attached: who reads use waits for a moment only
      database.execute(
          "create table %s (like use_month, check (month = '%s'))".formatted(masks, first));
      database.update(
          """
          insert into %s (whose, permission, resource, actor, source, month, days, count)
          select whose, permission, resource, actor, source, ?,
            bit_or(1 << (extract(day from day)::int - 1)), least(sum(count), 2147483647)::int
          from %s group by whose, permission, resource, actor, source order by 1, 2, 3, 4, 5
          """
              .formatted(masks, days),
          Date.valueOf(first));
      database.execute(
          "alter table %s add primary key (whose, permission, resource, actor, source, month)"
              .formatted(masks));
      database.execute(
          "alter table use_month attach partition %s for values from ('%s') to ('%s')"
              .formatted(masks, first, first.plusMonths(1)));
      database.update(
          "update use_partition set rolled = true where month = ?", Date.valueOf(first));
      database.execute("drop table " + days);
    });
  }

  /** Drops a month. */
  void drop(YearMonth month) {
    alone.executeWithoutResult(_ -> {
      lock();
      Boolean rolled = all().get(month);
      if (rolled != null) {
        database.execute("drop table " + name(rolled ? "use_month" : "use_day", month));
        database.update("delete from use_partition where month = ?", Date.valueOf(month.atDay(1)));
      }
    });
  }
}
