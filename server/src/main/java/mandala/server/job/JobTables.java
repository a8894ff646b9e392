package mandala.server.job;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/** Jobs as they are kept. */
@Repository
class JobTables {

  /** For how long a result is kept. */
  static final Duration KEPT = Duration.ofDays(1);

  /** Size of a part of a file, in bytes. */
  private static final int PART = 1 << 20;

  /** Maximum size of a file, in bytes. */
  private static final long MOST_BYTES = 1L << 30;

  /** What is null is left out, as in every answer. */
  private static final JsonMapper JSON =
      JsonMapper.builder()
          .changeDefaultPropertyInclusion(it -> it.withValueInclusion(JsonInclude.Include.NON_NULL))
          .build();

  private final JdbcTemplate database;

  /** What is kept of a run stands at once, whatever transaction the run reads in. */
  private final TransactionTemplate apart;

  JobTables(JdbcTemplate database, PlatformTransactionManager transactions) {
    this.database = database;
    this.apart = new TransactionTemplate(transactions);
    apart.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
  }

  /**
   * A job that was taken up.
   *
   * @param attempt from 1
   */
  record Taken(JobOrder order, int attempt) {}

  /** An answer, and what its viewer could read then; null where it names nothing of the model. */
  record Answer(String kind, String json, @Nullable String mayRead) {}

  void insert(String id, JobOrder order, Instant now) {
    Instant seenAt = order.seenAt();
    database.update(
        """
        insert into job (id, owner, kind, title, details, viewer, seen_at, second_factor, state,
          begun_at) values (?, ?, ?, ?, ?, ?, ?, ?, 'waiting', ?)
        """,
        id,
        order.owner(),
        order.kind(),
        order.title(),
        JSON.writeValueAsString(order.details()),
        order.viewer(),
        seenAt == null ? null : seenAt.atOffset(ZoneOffset.UTC),
        order.secondFactor(),
        now.atOffset(ZoneOffset.UTC));
  }

  /** Keeps what a job works on. */
  void insertInput(String id, byte[] input) {
    for (int part = 0; part * PART < input.length; part++) {
      database.update(
          "insert into job_input (job, part, data) values (?, ?, ?)",
          id,
          part,
          Arrays.copyOfRange(input, part * PART, Math.min(input.length, (part + 1) * PART)));
    }
  }

  /** {@return what a job works on}, empty where it was given nothing */
  byte[] input(String id) {
    ByteArrayOutputStream input = new ByteArrayOutputStream(PART);
    copy("job_input", id, input);
    return input.toByteArray();
  }

  /** Takes turns with everybody else who begins a job for the same person, or ends theirs. */
  void lock(String owner) {
    database.query("select pg_advisory_xact_lock(hashtext('job of ' || ?))", _ -> {}, owner);
  }

  private static Job job(ResultSet row, int number) throws SQLException {
    Timestamp ended = row.getTimestamp("ended_at");
    return new Job(
        row.getString("id"),
        row.getString("kind"),
        row.getString("title"),
        JSON.readTree(row.getString("details")),
        row.getString("state"),
        row.getLong("done"),
        row.getObject("total", Long.class),
        row.getTimestamp("begun_at").toInstant(),
        ended == null ? null : ended.toInstant(),
        row.getString("fault"),
        row.getBoolean("answered"),
        row.getString("file_name"),
        row.getLong("bytes"),
        ended == null ? null : ended.toInstant().plus(KEPT));
  }

  private static final String COLUMNS =
      "id, kind, title, details, state, done, total, begun_at, ended_at, fault, answer is not null as answered,"
          + " file_name, bytes";

  /** {@return the jobs of a person}, the newest first */
  List<Job> of(String owner) {
    return database.query(
        "select " + COLUMNS + " from job where owner = ? order by begun_at desc, id",
        JobTables::job,
        owner);
  }

  Optional<Job> find(String id, String owner) {
    return database
        .query(
            "select " + COLUMNS + " from job where id = ? and owner = ?", JobTables::job, id, owner)
        .stream()
        .findFirst();
  }

  long unfinished() {
    Long found =
        database.queryForObject(
            "select count(*) from job where state in ('waiting', 'running')", Long.class);
    return found == null ? 0 : found;
  }

  /** Takes a job up, once more perhaps; none where it is over or to be cancelled. */
  @Transactional
  Optional<Taken> take(String id) {
    database.update("delete from job_part where job = ?", id);
    return database
        .query(
            """
            update job set state = 'running', attempts = attempts + 1, done = 0, answer = null,
              file_name = null, bytes = 0
            where id = ? and state in ('waiting', 'running') and not cancel_wanted
            returning kind, owner, title, details, viewer, seen_at, second_factor, attempts
            """,
            (row, _) ->
                new Taken(
                    new JobOrder(
                        row.getString(1),
                        row.getString(2),
                        row.getString(3),
                        JSON.readTree(row.getString(4)),
                        row.getString(5),
                        row.getTimestamp(6) == null ? null : row.getTimestamp(6).toInstant(),
                        row.getBoolean(7)),
                    row.getInt(8)),
            id)
        .stream()
        .findFirst();
  }

  /** Keeps how far it is, and {@return whether it goes on}. */
  boolean progress(String id, long done, long of) {
    return Boolean.TRUE.equals(
        apart.execute(_ ->
            database
                .queryForList(
                    "update job set done = ?, total = ? where id = ? returning not cancel_wanted",
                    Boolean.class,
                    done,
                    of < 0 ? null : of,
                    id)
                .contains(true)));
  }

  void answer(String id, Object answer, String mayRead) {
    database.update(
        "update job set answer = ?, may_read = ? where id = ?",
        JSON.writeValueAsString(answer),
        mayRead,
        id);
  }

  Optional<Answer> answerOf(String id, String owner) {
    return database
        .query(
            "select kind, answer, may_read from job where id = ? and owner = ? and state = 'done'"
                + " and answer is not null",
            (row, _) -> new Answer(row.getString(1), row.getString(2), row.getString(3)),
            id,
            owner)
        .stream()
        .findFirst();
  }

  /** {@return what the viewer could read when a file was written}, none where there is none */
  Optional<String> mayReadOf(String id, String owner) {
    return database
        .query(
            "select may_read from job where id = ? and owner = ? and state = 'done'"
                + " and file_name is not null",
            (row, _) -> row.getString(1),
            id,
            owner)
        .stream()
        .findFirst();
  }

  /** {@return where the file of a job is written}, in parts, so that none has to fit into memory */
  OutputStream file(String id, String name, String mediaType, String mayRead) {
    return new OutputStream() {
      private final ByteArrayOutputStream open = new ByteArrayOutputStream(PART);
      private int parts;
      private long bytes;
      private boolean closed;

      @Override
      public void write(int b) {
        open.write(b);
        flushWhole();
      }

      @Override
      public void write(byte[] data, int from, int length) {
        open.write(data, from, length);
        flushWhole();
      }

      private void flushWhole() {
        if (open.size() >= PART) {
          part();
        }
      }

      private void part() {
        bytes += open.size();
        if (bytes > MOST_BYTES) {
          throw new IllegalStateException("A file is larger than " + MOST_BYTES + " bytes");
        }
        byte[] data = open.toByteArray();
        int number = parts++;
        apart.executeWithoutResult(_ ->
            database.update(
                "insert into job_part (job, part, data) values (?, ?, ?)", id, number, data));
        open.reset();
      }

      @Override
      public void close() {
        if (!closed) {
          closed = true;
          part();
          database.update(
              "update job set file_name = ?, media_type = ?, bytes = ?, may_read = ? where id = ?",
              name,
              mediaType,
              bytes,
              mayRead,
              id);
        }
      }
    };
  }

  /** {@return the media type of the file of a job} */
  String mediaType(String id) {
    String type =
        database.queryForObject("select media_type from job where id = ?", String.class, id);
    return type == null ? "application/octet-stream" : type;
  }

  /** Writes the file of a job, a part at a time. */
  void copy(String id, OutputStream into) {
    copy("job_part", id, into);
  }

  private void copy(String table, String id, OutputStream into) {
    for (int part = 0; true; part++) {
      List<byte[]> data =
          database.query(
              "select data from " + table + " where job = ? and part = ?",
              (row, _) -> row.getBytes(1),
              id,
              part);
      if (data.isEmpty()) {
        return;
      }
      try {
        into.write(data.getFirst());
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
  }

  /**
   * Ends a running job with an answer that names nothing of the model, and {@return whether that
   * was still wanted}. It belongs to the transaction in which the job does its work.
   */
  boolean endWith(String id, Object answer, Instant now) {
    database.update("delete from job_input where job = ?", id);
    return database.update(
            "update job set state = 'done', answer = ?, may_read = null, ended_at = ?,"
                + " done = coalesce(total, done)"
                + " where id = ? and state = 'running' and not cancel_wanted",
            JSON.writeValueAsString(answer),
            now.atOffset(ZoneOffset.UTC),
            id)
        == 1;
  }

  /** Ends a job, and {@return whether it had not ended before}. */
  @Transactional
  boolean end(String id, String state, @Nullable String fault, Instant now) {
    database.update("delete from job_input where job = ?", id);
    return database.update(
            "update job set state = ?, fault = ?, ended_at = ?, total = coalesce(total, done)"
                + " where id = ? and state in ('waiting', 'running')",
            state,
            fault,
            now.atOffset(ZoneOffset.UTC),
            id)
        == 1;
  }

  void waitAgain(String id) {
    database.update("update job set state = 'waiting' where id = ? and state = 'running'", id);
  }

  /** Wants a job to end, and {@return whether nobody works on it}. */
  boolean wantCancel(String id) {
    return database
        .queryForList(
            "update job set cancel_wanted = true where id = ? and state in ('waiting', 'running')"
                + " returning state = 'waiting'",
            Boolean.class,
            id)
        .contains(true);
  }

  void delete(String id) {
    database.update("delete from job where id = ?", id);
  }

  /** Deletes what ended before an instant. */
  int deleteEndedBefore(Instant before) {
    return database.update("delete from job where ended_at < ?", before.atOffset(ZoneOffset.UTC));
  }

  void deleteOf(String owner) {
    database.update("delete from job where owner = ? or viewer = ?", owner, owner);
  }
}
