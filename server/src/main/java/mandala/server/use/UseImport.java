package mandala.server.use;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.security.DigestInputStream;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.concurrent.locks.ReentrantLock;
import mandala.core.excess.UseRecord;
import mandala.core.model.Catalogue;
import mandala.core.model.check.Fault;
import mandala.document.UseReader;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.apache.commons.codec.binary.Hex;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Brings use records in: all of a batch or nothing of it, and each batch once. Records of the same
 * right and day add up.
 */
@Service
class UseImport {

  /** The largest batch, in bytes. */
  static final long LARGEST = 64L << 20;

  /** How many faults of a batch are told. */
  static final int MOST_FAULTS = 100;

  private final UseMonths months;
  private final UseTables tables;
  private final UsePolicy policy;
  private final JdbcTemplate database;
  private final TransactionTemplate transactions;
  private final Clock clock;

  /** Whoever waits for another batch waits here, without a connection. */
  private final ReentrantLock merging = new ReentrantLock(true);

  UseImport(
      UseMonths months,
      UseTables tables,
      UsePolicy policy,
      JdbcTemplate database,
      TransactionTemplate transactions,
      Clock clock) {
    this.months = months;
    this.tables = tables;
    this.policy = policy;
    this.database = database;
    this.transactions = transactions;
    this.clock = clock;
  }

  /**
   * What was taken in.
   *
   * @param records how many
   * @param unknown how many of them name somebody or something that the sender may not know
   * @param again whether it had come in before, so that nothing was added now
   */
  record Taken(long records, long unknown, boolean again) {}

  /**
   * Takes a batch in.
   *
   * @param key names the batch; sent again, it is not taken again
   * @param table whether it is a table rather than JSON Lines
   * @param sender whose look at the model tells what is unknown
   * @throws Problem if it has faults, another batch had its key, or it is too large
   */
  Taken take(UseSource source, String key, InputStream in, boolean table, RequestContext sender)
      throws IOException {
    Catalogue catalogue = sender.state().engine().catalogue();
    KnownNames names = new KnownNames(catalogue, source.account(), sender.readPolicy());
    try (UseRecords records = new UseRecords()) {
      DigestInputStream body =
          new DigestInputStream(new Limited(in, LARGEST), DigestUtils.getSha256Digest());
      DayCheck days = new DayCheck();
      UseReader.Sink sink =
          (path, it) -> {
            Fault fault = days.fault(path, it);
            if (fault == null) {
              records.add(it, names.knows(it), names.tells(it));
            }
            return fault;
          };
      List<Fault> faults =
          table
              ? UseReader.readTable(body, source.columns(), MOST_FAULTS, sink)
              : UseReader.read(body, MOST_FAULTS, sink);
      if (!faults.isEmpty()) {
        throw Problem.faulty(
            faults.size() >= MOST_FAULTS
                ? "The records have at least " + MOST_FAULTS + " faults"
                : "The records have " + faults.size() + (faults.size() == 1 ? " fault" : " faults"),
            faults);
      }
      body.transferTo(OutputStream.nullOutputStream());
      String hash = Hex.encodeHexString(body.getMessageDigest().digest());
      Batch batch =
          new Batch(source.key(), key, hash, clock.instant(), sender.readPolicy().viewer().value());
      return merge(source.number(), batch, records);
    }
  }

  /** Which batch, and who sent it when. */
  record Batch(String source, String key, String hash, Instant at, String sender) {}

  private Taken merge(int source, Batch batch, UseRecords records) throws IOException {
    Taken before = before(batch);
    if (before != null) {
      return before;
    }
    return locked(() -> write(source, batch, records));
  }

  private interface Writing {
    Taken run() throws IOException;
  }

  private Taken locked(Writing writing) throws IOException {
    merging.lock();
    try {
      return writing.run();
    } finally {
      merging.unlock();
    }
  }

  private Taken write(int source, Batch batch, UseRecords records) throws IOException {
    LocalDate today = LocalDate.ofInstant(batch.at(), ZoneOffset.UTC);
    months.prepare(records.months(), policy.rule(), today);
    try (BufferedReader lines = records.read()) {
      Taken taken =
          transactions.execute(_ -> {
            tables.stage(lines);
            months.lock();
            Taken before = before(batch);
            if (before != null) {
              return before;
            }
            Integer[] people = tables.merge(source);
            tables.keepStrangers(source, today);
            keep(batch, records, people);
            return new Taken(records.count(), records.unknown(), false);
          });
      if (taken == null) {
        throw new IllegalStateException("Impossible state: a batch without an answer");
      }
      return taken;
    }
  }

  private void keep(Batch batch, UseRecords records, Integer[] people) {
    database.update(
        "insert into use_batch (source, key, hash, at, sent_by, records, unknown, people)"
            + " values (?, ?, ?, ?, ?, ?, ?, ?)",
        batch.source(),
        batch.key(),
        batch.hash(),
        batch.at().atOffset(ZoneOffset.UTC),
        batch.sender(),
        records.count(),
        records.unknown(),
        people);
  }

  private @Nullable Taken before(Batch batch) {
    return database
        .query(
            "select hash, records, unknown from use_batch where source = ? and key = ?",
            (row, _) -> {
              if (!row.getString(1).equals(batch.hash())) {
                throw Problem.conflict(
                    "Another batch had this key",
                    "The batch '"
                        + batch.key()
                        + "' came in before with other records. Nothing was added. Send these"
                        + " under a key of their own.");
              }
              return new Taken(row.getLong(2), row.getLong(3), true);
            },
            batch.source(),
            batch.key())
        .stream()
        .findFirst()
        .orElse(null);
  }

  /**
   * Takes in what Mandala itself observed, or what its demo tells: all of it is known, or dropped.
   *
   * @param number the number of the source
   * @param source its key
   * @param name names the batch
   */
  void takeOwn(
      int number, String source, String name, Iterable<UseRecord> some, Catalogue catalogue)
      throws IOException {
    KnownNames names = new KnownNames(catalogue, null, null);
    try (UseRecords records = new UseRecords()) {
      for (UseRecord it : some) {
        if (names.knows(it)) {
          records.add(it, true, true);
        }
      }
      Batch batch = new Batch(source, name, "", clock.instant(), UseSources.OWN);
      locked(() -> write(number, batch, records));
    }
  }

  /** Refuses days that are not over yet, and those of which nothing is kept any more. */
  private final class DayCheck {
    private final LocalDate today = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC);
    private final LocalDate since = policy.rule().keptSince(today);

    @Nullable Fault fault(String path, UseRecord it) {
      String what = null;
      if (it.day().isAfter(today)) {
        what = "the day " + it.day() + " has not come yet";
      } else if (it.day().isBefore(since)) {
        what = "the day " + it.day() + " is too long ago: use is kept since " + since;
      }
      return what == null
          ? null
          : new Fault(path + ".day", what, "Send records of " + since + " to " + today);
    }
  }
}
