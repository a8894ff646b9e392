package mandala.server.trail;

import java.nio.charset.StandardCharsets;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import javax.sql.DataSource;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Writes and verifies the trail. Each line's hash is the SHA-256 of the hash before it and of all
 * of the line, and the head keeps the last one: a line that was altered, taken out, put in or cut
 * off at the end shows. Lines are numbered without gaps: whoever writes holds the head's row until
 * its transaction ends.
 */
@Component
public class Trail {

  private final JdbcTemplate database;
  private final JdbcTemplate reading;
  private final Clock clock;

  Trail(DataSource source, Clock clock) {
    this.database = new JdbcTemplate(source);
    this.reading = new JdbcTemplate(source);
    this.clock = clock;
    reading.setFetchSize(1_000);
  }

  private record Head(long seq, String hash) {}

  /** Writes lines in the running transaction: they stand or fall with it. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void write(List<Happening> happenings) {
    append(happenings);
  }

  /**
   * Writes lines of what happened earlier, in the running transaction: for a trail that begins with
   * a past.
   *
   * @param at not before what was written last
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void write(List<Happening> happenings, Instant at) {
    append(happenings, at);
  }

  /** Writes a line by itself, whatever becomes of what is going on. */
  @Transactional(propagation = Propagation.REQUIRES_NEW)
  public void writeAlone(Happening happening) {
    append(List.of(happening));
  }

  private void append(List<Happening> happenings) {
    append(happenings, clock.instant());
  }

  private void append(List<Happening> happenings, Instant when) {
    if (happenings.isEmpty()) {
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
    List<@Nullable Object[]> rows = new ArrayList<>();
    for (Happening it : happenings) {
      seq++;
      Line line = new Line(seq, at, it);
      hash = line.hash(hash);
      rows.add(line.row(hash));
    }
    database.batchUpdate(
        """
        insert into trail (seq, at, who, who_name, acting_for, act, revision, kind, thing, name,
          accounts, places, said, before, after, address, hash)
        values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, string_to_array(?, ' '), string_to_array(?, ' '),
          ?, ?, ?, ?, ?)
        """,
        rows);
    database.update("update trail_head set seq = ?, hash = ?", seq, hash);
  }

  /** A line as it is hashed. */
  private record Line(long seq, OffsetDateTime at, Happening it) {

    String hash(String before) {
      StringBuilder all = new StringBuilder();
      all.append(before).append('\n').append(seq).append('\n').append(at.toInstant());
      for (@Nullable String part : parts()) {
        all.append('\n');
        if (part == null) {
          all.append('-');
        } else {
          all.append(part.length()).append(':').append(part); // no two lines read the same
        }
      }
      return DigestUtils.sha256Hex(all.toString().getBytes(StandardCharsets.UTF_8));
    }

    private List<@Nullable String> parts() {
      return Arrays.asList(
          it.who(),
          it.whoName(),
          it.actingFor(),
          it.act().word(),
          it.revision() == null ? null : Long.toString(it.revision()),
          it.kind(),
          it.thing(),
          it.name(),
          String.join(" ", it.accounts()),
          String.join(" ", it.places()),
          it.said(),
          it.before(),
          it.after(),
          it.address());
    }

    @Nullable Object[] row(String hash) {
      List<@Nullable Object> row = new ArrayList<>(List.of(seq, at));
      row.addAll(parts());
      row.set(6, it.revision());
      row.add(hash);
      return row.toArray();
    }
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
    String[] fault = {null};
    reading.query(
        "select * from trail order by seq",
        row -> {
          if (fault[0] != null) {
            return;
          }
          long number = row.getLong("seq");
          if (number != seq[0] + 1) {
            fault[0] = "Line " + (seq[0] + 1) + " is missing: line " + number + " follows";
            return;
          }
          String expected = line(row).hash(hash[0]);
          if (!expected.equals(row.getString("hash"))) {
            fault[0] = "Line " + number + " is not as it was written";
            return;
          }
          seq[0] = number;
          hash[0] = expected;
        });
    Head head =
        database.queryForObject(
            "select seq, hash from trail_head",
            (row, _) -> new Head(row.getLong(1), row.getString(2)));
    if (fault[0] == null && head != null && head.seq() != seq[0]) {
      fault[0] = "The trail ends at line " + seq[0] + ", but " + head.seq() + " lines were written";
    }
    if (fault[0] == null && head != null && !head.hash().equals(hash[0])) {
      fault[0] = "The head does not fit the last line";
    }
    return new Verified(seq[0], hash[0], Optional.ofNullable(fault[0]));
  }

  private static Line line(ResultSet row) throws SQLException {
    String word = row.getString("act").toUpperCase(java.util.Locale.ROOT).replace('-', '_');
    Happening.Act act =
        Arrays.stream(Happening.Act.values())
            .filter(it -> it.name().equals(word))
            .findFirst()
            .orElse(Happening.Act.REFUSED); // an act that nobody writes: the hash will differ
    long revision = row.getLong("revision");
    return new Line(
        row.getLong("seq"),
        row.getObject("at", OffsetDateTime.class),
        new Happening(
            act,
            row.getString("who"),
            row.getString("who_name"),
            row.getString("acting_for"),
            revision == 0 ? null : revision,
            row.getString("kind"),
            row.getString("thing"),
            row.getString("name"),
            texts(row.getArray("accounts")),
            texts(row.getArray("places")),
            row.getString("said"),
            row.getString("before"),
            row.getString("after"),
            row.getString("address")));
  }

  private static List<String> texts(Array array) throws SQLException {
    return List.of((String[]) array.getArray());
  }
}
