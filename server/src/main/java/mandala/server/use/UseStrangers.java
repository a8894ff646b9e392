package mandala.server.use;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import mandala.core.excess.UseRecord;
import mandala.core.model.Catalogue;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.model.LiveModel;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/** Records that name what their sender does not know, kept for a while. */
@Component
class UseStrangers {

  private final LiveModel model;
  private final UseSources sources;
  private final UseMonths months;
  private final UseTables tables;
  private final UsePolicy policy;
  private final JdbcTemplate database;
  private final TransactionTemplate transactions;
  private final Clock clock;

  UseStrangers(
      LiveModel model,
      UseSources sources,
      UseMonths months,
      UseTables tables,
      UsePolicy policy,
      JdbcTemplate database,
      TransactionTemplate transactions,
      Clock clock) {
    this.model = model;
    this.sources = sources;
    this.months = months;
    this.tables = tables;
    this.policy = policy;
    this.database = database;
    this.transactions = transactions;
    this.clock = clock;
  }

  /** Names that come together in records, the last day, and how many records. */
  record Stranger(UseRecord names, long records) {}

  /** {@return the names of a source that are not known}, those of the most records first */
  List<Stranger> of(UseSource source) {
    return database.query(
        """
        select principal, permission, resource, acting_for, max(day), 1, sum(records)
        from use_stranger where source = ? group by 1, 2, 3, 4 order by 7 desc, 1, 2, 3, 4
        """,
        (row, _) -> new Stranger(record(row), row.getLong(7)),
        source.number());
  }

  /** Takes up as use what names only what the model has by now. */
  void takeUp() {
    Catalogue catalogue = model.engine().catalogue();
    for (UseSource source : sources.all()) {
      try {
        takeUp(source.number(), new KnownNames(catalogue, source.account(), null));
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
  }

  private void takeUp(int source, KnownNames names) throws IOException {
    try (UseRecords records = new UseRecords()) {
      database.query(
          "select principal, permission, resource, acting_for, day, count from use_stranger"
              + " where source = ? and not used",
          row -> {
            UseRecord it = record(row);
            if (names.knows(it)) {
              records.add(it, true, true);
            }
          },
          source);
      if (records.count() > 0) {
        LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
        months.prepare(records.months(), policy.rule(), today);
        try (BufferedReader lines = records.read()) {
          transactions.executeWithoutResult(_ -> {
            tables.stage(lines);
            months.lock();
            tables.useStrangers(source);
            tables.keepPeople(tables.merge(source), clock.instant());
          });
        }
      }
    }
  }

  private static UseRecord record(ResultSet row) throws SQLException {
    String other = row.getString(4);
    return new UseRecord(
        new PrincipalKey(row.getString(1)),
        new PermissionKey(row.getString(2)),
        new ResourceKey(row.getString(3)),
        row.getDate(5).toLocalDate(),
        row.getInt(6),
        other.isEmpty() ? null : new PrincipalKey(other));
  }
}
