package mandala.server.audit;

import java.nio.charset.StandardCharsets;
import java.sql.Array;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Clock;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.locks.ReentrantLock;
import javax.sql.DataSource;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.dao.NonTransientDataAccessResourceException;
import org.springframework.dao.TransientDataAccessException;
import org.springframework.jdbc.core.BatchPreparedStatementSetter;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Writes and verifies the trail. Each line's hash is the SHA-256 of the hash before it and of every
 * field of the line with its kind and length, and the head keeps the last one: a line that was
 * altered, taken out or put in shows. That everything was written anew, or the end cut off with the
 * head set back, shows by the heads that are signed and kept outside of the database ({@link
 * SignedHeads}). Lines are numbered without gaps: whoever writes holds the head's row until its
 * transaction ends.
 */
@Component
public class Trail {

  private final JdbcTemplate database;
  private final JdbcTemplate reading;
  private final Clock clock;
  private final SignedHeads heads;
  private final ErasedParts erased;
  private final TransactionTemplate alone;
  private final Queue<Waiting> waiting = new ConcurrentLinkedQueue<>();
  private final ReentrantLock turn = new ReentrantLock();

  Trail(
      DataSource source,
      Clock clock,
      SignedHeads heads,
      ErasedParts erased,
      PlatformTransactionManager transactions) {
    this.erased = erased;
    this.alone = new TransactionTemplate(transactions);
    alone.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
    this.heads = heads;
    this.database = new JdbcTemplate(source);
    this.reading = new JdbcTemplate(source);
    this.clock = clock;
    reading.setFetchSize(1_000);
  }

  private record Head(long seq, String hash) {}

  /** Writes lines in the running transaction: they stand or fall with it. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void write(List<AuditEvent> events) {
    append(events);
  }

  /**
   * Writes lines of what happened earlier, in the running transaction: for a trail that begins with
   * a past.
   *
   * @param at not before what was written last
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void write(List<AuditEvent> events, Instant at) {
    append(events, at);
  }

  /**
   * Writes a line by itself, whatever becomes of what is going on; it is written when this returns.
   * Whoever comes while another's line is being written waits, and what has come meanwhile is then
   * written in one transaction: many who ask at once do not queue for the head's row one by one.
   */
  public void writeAlone(AuditEvent event) {
    Waiting mine = new Waiting(event);
    waiting.add(mine);
    turn.lock();
    try {
      if (!mine.done) {
        writeWaiting();
      }
    } finally {
      turn.unlock();
    }
    if (mine.failure != null) {
      throw mine.failure;
    }
  }

  /** A line that waits for its transaction; guarded by {@link #turn} once it is there. */
  private static final class Waiting {
    final AuditEvent event;
    boolean done;
    @Nullable RuntimeException failure;

    Waiting(AuditEvent event) {
      this.event = event;
    }

    void end(@Nullable RuntimeException why) {
      done = true;
      failure = why;
    }
  }

  private void writeWaiting() {
    List<Waiting> batch = new ArrayList<>();
    for (Waiting next = waiting.poll(); next != null; next = waiting.poll()) {
      batch.add(next);
    }
    RuntimeException failure = tryWriting(batch);
    if (failure instanceof TransientDataAccessException
        || failure instanceof NonTransientDataAccessResourceException
        || failure instanceof TransactionException
        || batch.size() == 1) {
      batch.forEach(it -> it.end(failure));
    } else if (failure != null) {
      // one of them can't be written, and the others are not to suffer for it
      batch.forEach(it -> it.end(tryWriting(List.of(it))));
    }
  }

  /** Writes lines in a transaction of their own, and ends them where it succeeds. */
  private @Nullable RuntimeException tryWriting(List<Waiting> batch) {
    try {
      alone.executeWithoutResult(_ -> append(batch.stream().map(it -> it.event).toList()));
      batch.forEach(it -> it.end(null));
      return null;
    } catch (RuntimeException e) {
      return e;
    }
  }

  private void append(List<AuditEvent> events) {
    append(events, clock.instant());
  }

  private void append(List<AuditEvent> events, Instant when) {
    if (events.isEmpty()) {
      return;
    }
    Head head =
        database.queryForObject(
            "select seq, hash from trail_head for update",
            (row, _) -> new Head(row.getLong(1), row.getString(2)));
    if (head == null) {
      throw new IllegalStateException("Impossible state: the trail has no head");
    }
    OffsetDateTime at = when.truncatedTo(ChronoUnit.MILLIS).atOffset(ZoneOffset.UTC);
    long seq = head.seq();
    String hash = head.hash();
    List<Line> lines = new ArrayList<>();
    List<String> hashes = new ArrayList<>();
    for (AuditEvent it : events) {
      Line line = Line.of(++seq, at, it);
      hash = line.hash(hash);
      lines.add(line);
      hashes.add(hash);
    }
    database.batchUpdate(
        """
        insert into trail (seq, at, who, who_name, acting_for, act, revision, kind, thing, name,
          accounts, places, said, before, after, address, rule, entry_digest, model_digest, hash)
        values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
        """,
        new BatchPreparedStatementSetter() {
          @Override
          public void setValues(PreparedStatement row, int at) throws SQLException {
            lines.get(at).put(row);
            row.setString(20, hashes.get(at));
          }

          @Override
          public int getBatchSize() {
            return lines.size();
          }
        });
    database.update("update trail_head set seq = ?, hash = ?", seq, hash);
  }

  /** The rule by which lines are hashed now; of rule 1 are those that earlier versions wrote. */
  private static final int RULE = 2;

  /** A line as it is kept, field by field. */
  private record Line(
      long seq,
      OffsetDateTime at,
      @Nullable String who,
      @Nullable String whoName,
      @Nullable String actingFor,
      String act,
      @Nullable Long revision,
      @Nullable String kind,
      @Nullable String thing,
      @Nullable String name,
      List<String> accounts,
      List<String> places,
      String said,
      @Nullable String before,
      @Nullable String after,
      @Nullable String address,
      int rule,
      @Nullable String entryDigest,
      @Nullable String modelDigest) {

    static Line of(long seq, OffsetDateTime at, AuditEvent it) {
      return new Line(
          seq,
          at,
          it.who(),
          it.whoName(),
          it.actingFor(),
          it.act().word(),
          it.revision(),
          it.kind(),
          it.thing(),
          it.name(),
          it.accounts(),
          it.places(),
          it.said(),
          it.before(),
          it.after(),
          it.address(),
          RULE,
          it.entryDigest(),
          it.modelDigest());
    }

    /** The same line, saying something else: its number, its instant and its digests stay. */
    Line saying(AuditEvent it) {
      return new Line(
          seq,
          at,
          it.who(),
          it.whoName(),
          it.actingFor(),
          act,
          revision,
          it.kind(),
          it.thing(),
          it.name(),
          it.accounts(),
          it.places(),
          it.said(),
          it.before(),
          it.after(),
          it.address(),
          rule,
          entryDigest,
          modelDigest);
    }

    AuditEvent event() {
      return new AuditEvent(
          AuditEvent.Act.of(act),
          who,
          whoName,
          actingFor,
          revision,
          kind,
          thing,
          name,
          accounts,
          places,
          said,
          before,
          after,
          address,
          entryDigest,
          modelDigest);
    }

    static Line read(ResultSet row) throws SQLException {
      long number = row.getLong("revision");
      Long revision = row.wasNull() ? null : number;
      return new Line(
          row.getLong("seq"),
          row.getObject("at", OffsetDateTime.class),
          row.getString("who"),
          row.getString("who_name"),
          row.getString("acting_for"),
          row.getString("act"),
          revision,
          row.getString("kind"),
          row.getString("thing"),
          row.getString("name"),
          texts(row.getArray("accounts")),
          texts(row.getArray("places")),
          row.getString("said"),
          row.getString("before"),
          row.getString("after"),
          row.getString("address"),
          row.getInt("rule"),
          row.getString("entry_digest"),
          row.getString("model_digest"));
    }

    void put(PreparedStatement row) throws SQLException {
      row.setLong(1, seq);
      row.setObject(2, at);
      row.setString(3, who);
      row.setString(4, whoName);
      row.setString(5, actingFor);
      row.setString(6, act);
      row.setObject(7, revision, Types.BIGINT);
      row.setString(8, kind);
      row.setString(9, thing);
      row.setString(10, name);
      row.setArray(11, row.getConnection().createArrayOf("text", accounts.toArray()));
      row.setArray(12, row.getConnection().createArrayOf("text", places.toArray()));
      row.setString(13, said);
      row.setString(14, before);
      row.setString(15, after);
      row.setString(16, address);
      row.setInt(17, rule);
      row.setString(18, entryDigest);
      row.setString(19, modelDigest);
    }

    String hash(String last) {
      return rule == RULE ? hashByLength(last) : hashOfBefore(last);
    }

    /** Rule 2: every field as it is kept, with its kind and length. */
    private String hashByLength(String last) {
      return new Canonical()
          .add(last)
          .add((long) rule)
          .add(seq)
          .add(at.toInstant())
          .add(who)
          .add(whoName)
          .add(actingFor)
          .add(act)
          .add(revision)
          .add(kind)
          .add(thing)
          .add(name)
          .add(accounts)
          .add(places)
          .add(said)
          .add(before)
          .add(after)
          .add(address)
          .add(entryDigest)
          .add(modelDigest)
          .hex();
    }

    /** Rule 1, of earlier versions: lists joined with blanks, digests not hashed. */
    private String hashOfBefore(String last) {
      StringBuilder all = new StringBuilder();
      all.append(last).append('\n').append(seq).append('\n').append(at.toInstant());
      List<@Nullable String> parts =
          Arrays.asList(
              who,
              whoName,
              actingFor,
              act,
              revision == null ? null : Long.toString(revision),
              kind,
              thing,
              name,
              String.join(" ", accounts),
              String.join(" ", places),
              said,
              before,
              after,
              address);
      for (@Nullable String part : parts) {
        all.append('\n');
        if (part == null) {
          all.append('-');
        } else {
          all.append(part.length()).append(':').append(part);
        }
      }
      return DigestUtils.sha256Hex(all.toString().getBytes(StandardCharsets.UTF_8));
    }

    /** Rule 1 leaves open what it joins: only what it could have written is taken for its line. */
    @Nullable String oddity() {
      if (rule == RULE) {
        return null;
      }
      boolean odd =
          rule != 1
              || entryDigest != null
              || modelDigest != null
              || accounts.stream().anyMatch(it -> it.isEmpty() || it.contains(" "))
              || places.stream().anyMatch(it -> it.isEmpty() || it.contains(" "))
              || (revision != null && revision == 0)
              || Arrays.stream(AuditEvent.Act.values()).noneMatch(it -> it.word().equals(act));
      return odd ? "Line " + seq + " is not as any version writes it" : null;
    }
  }

  /**
   * Blots somebody out of the lines that name them. The chain stays as it was written: of each such
   * line its hash remains, and what it is since is given back for {@link ErasedParts}.
   *
   * @return the lines that are other than before
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<ErasedParts.Part> blot(Blotting how) {
    record Blotted(Line line, String digest) {}

    List<Blotted> blotted = new ArrayList<>();
    reading.query(
        """
        select t.*, coalesce(b.hash, '') as hash_before from trail t
          left join trail b on b.seq = t.seq - 1
          where concat_ws(' ', t.who, t.who_name, t.acting_for, t.thing, t.name, t.said, t.before,
            t.after, t.address) ilike any (?) order by t.seq
        """,
        row -> {
          Line line = Line.read(row);
          Line after = line.saying(how.line(line.event()));
          if (!after.equals(line)) {
            blotted.add(new Blotted(after, after.hash(row.getString("hash_before"))));
          }
        },
        (Object) Likeness.of(how.tokens()));
    database.batchUpdate(
        """
        update trail set who = ?, who_name = ?, acting_for = ?, thing = ?, name = ?, said = ?,
          before = ?, after = ?, address = ? where seq = ?
        """,
        blotted.stream()
            .map(Blotted::line)
            .map(it ->
                new @Nullable Object[] {
                  it.who(),
                  it.whoName(),
                  it.actingFor(),
                  it.thing(),
                  it.name(),
                  it.said(),
                  it.before(),
                  it.after(),
                  it.address(),
                  it.seq()
                })
            .toList());
    return blotted.stream()
        .map(it -> new ErasedParts.Part(ErasedParts.Sort.LINE, it.line().seq(), it.digest()))
        .toList();
  }

  /**
   * What a verification found.
   *
   * @param lines how many lines were read
   * @param head the hash of the last line: written down elsewhere, it shows later that nothing
   *     before it was changed
   * @param fault what is wrong first, in a sentence; none where all is well
   */
  public record Verified(long lines, String head, Optional<String> fault) {}

  /**
   * {@return whether every line is as it was written}, the whole trail read once, as it stood at
   * one moment: others may go on writing
   */
  @Transactional(readOnly = true, isolation = Isolation.REPEATABLE_READ)
  public Verified verify() {
    String[] hash = {""};
    long[] seq = {0};
    int[] rule = {1};
    @Nullable String[] fault = new @Nullable String[1];
    List<SignedHeads.Signed> signed = heads.kept();
    Map<Long, String> blotted = erased.latest(ErasedParts.Sort.LINE);
    Map<Long, String> expected = new HashMap<>();
    signed.forEach(it -> expected.put(it.seq(), it.hash()));
    reading.query(
        "select * from trail order by seq",
        row -> {
          if (fault[0] != null) {
            return;
          }
          Line line = Line.read(row);
          fault[0] =
              faultOf(
                  line,
                  blotted.getOrDefault(line.seq(), row.getString("hash")),
                  seq[0],
                  hash[0],
                  rule[0]);
          if (fault[0] == null) {
            seq[0] = line.seq();
            rule[0] = line.rule();
            hash[0] = row.getString("hash");
            String then = expected.get(line.seq());
            if (then != null && !then.equals(hash[0])) {
              fault[0] = "Line " + line.seq() + " is not the one that was signed";
            }
          }
        });
    Head head = head();
    if (fault[0] == null) {
      fault[0] = faultOfEnd(head, seq[0], hash[0], signed);
    }
    if (fault[0] == null) {
      fault[0] = erased.fault().orElse(null);
    }
    return new Verified(seq[0], hash[0], Optional.ofNullable(fault[0]));
  }

  private static @Nullable String faultOf(Line line, String kept, long seq, String hash, int rule) {
    if (line.seq() != seq + 1) {
      return "Line " + (seq + 1) + " is missing: line " + line.seq() + " follows";
    }
    if (line.rule() < rule) {
      return "Line " + line.seq() + " is of an older rule than the one before it";
    }
    String oddity = line.oddity();
    if (oddity != null) {
      return oddity;
    }
    return line.hash(hash).equals(kept) ? null : "Line " + line.seq() + " is not as it was written";
  }

  private @Nullable String faultOfEnd(
      @Nullable Head head, long seq, String hash, List<SignedHeads.Signed> signed) {
    if (head == null) {
      return "The head of the trail is missing";
    }
    if (head.seq() != seq) {
      return "The trail ends at line " + seq + ", but " + head.seq() + " lines were written";
    }
    if (!head.hash().equals(hash)) {
      return "The head does not fit the last line";
    }
    for (SignedHeads.Signed it : signed) {
      if (!heads.isGenuine(it)) {
        return "The signed head of line " + it.seq() + " was not signed with this server's key";
      }
      if (it.seq() > seq) {
        return "The trail ends at line "
            + seq
            + ", but line "
            + it.seq()
            + " was signed on "
            + it.at()
            + ": it was cut";
      }
    }
    return null;
  }

  /** Signs the head where it has moved since it was signed last. */
  public void sign() {
    Head head = head();
    if (head != null && head.seq() > 0) {
      heads.sign(head.seq(), head.hash(), clock.instant());
    }
  }

  private @Nullable Head head() {
    return database.query(
        "select seq, hash from trail_head",
        row -> row.next() ? new Head(row.getLong(1), row.getString(2)) : null);
  }

  private static List<String> texts(Array array) throws SQLException {
    return List.of((String[]) array.getArray());
  }
}
