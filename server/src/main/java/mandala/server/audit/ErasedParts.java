package mandala.server.audit;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Repository;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What lines of the trail, revisions and full copies are since somebody's personal facts were
 * blotted out of them. The digest of an erasure's parts is in its line of the trail and signed with
 * the trail's key: whoever can only write the database can't pass an alteration off as an erasure.
 */
@Repository
public class ErasedParts {

  private final JdbcTemplate database;
  private final SignedHeads keys;

  ErasedParts(JdbcTemplate database, SignedHeads keys) {
    this.database = database;
    this.keys = keys;
  }

  /** What can have been blotted. */
  public enum Sort {
    LINE,
    REVISION,
    COPY;

    private String word() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  /**
   * Something that was blotted.
   *
   * @param number of the line or revision
   * @param digest of what it is since
   */
  public record Part(Sort sort, long number, String digest) {}

  /**
   * Keeps the parts of an erasure and signs them.
   *
   * @param erased the key that replaces theirs
   * @return their digest, for the line of the trail
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public String keep(String erased, List<Part> parts) {
    database.batchUpdate(
        "insert into erased_part (erased, part, number, digest) values (?, ?, ?, ?)",
        parts.stream()
            .map(it -> new Object[] {erased, it.sort().word(), it.number(), it.digest()})
            .toList());
    String digest = digestOf(erased);
    database.update(
        "update erasure set signature = ? where erased = ?",
        keys.signatureOf(signed(erased, digest)),
        erased);
    return digest;
  }

  private static String signed(String erased, String digest) {
    return "mandala-erasure/1 " + erased + " " + digest;
  }

  private String digestOf(String erased) {
    Canonical all = new Canonical();
    database.query(
        "select part, number, digest from erased_part where erased = ? order by part, number",
        row -> {
          all.add(row.getString(1)).add(row.getLong(2)).add(row.getString(3));
        },
        erased);
    return all.hex();
  }

  /** {@return what parts of a sort are since the last erasure that touched them}, by number */
  public Map<Long, String> latest(Sort sort) {
    Map<Long, String> latest = new HashMap<>();
    database.query(
        """
        select p.number, p.digest from erased_part p
          join trail t on t.act = 'erased' and t.thing = p.erased
          where p.part = ? order by t.seq
        """,
        row -> {
          latest.put(row.getLong(1), row.getString(2));
        },
        sort.word());
    return latest;
  }

  private record Told(long seq, String erased, String digest, String signature) {}

  /** {@return which erasure is not as the trail tells it}, in a sentence; none where all are */
  Optional<String> fault() {
    return database
        .query(
            """
            select t.seq, coalesce(t.thing, ''), coalesce(t.entry_digest, ''),
                coalesce(e.signature, '') from trail t
              left join erasure e on e.erased = t.thing where t.act = 'erased' order by t.seq
            """,
            (row, _) ->
                new Told(row.getLong(1), row.getString(2), row.getString(3), row.getString(4)))
        .stream()
        .filter(it ->
            !digestOf(it.erased()).equals(it.digest())
                || !keys.isGenuine(signed(it.erased(), it.digest()), it.signature()))
        .findFirst()
        .map(it -> "What line " + it.seq() + " erased is not as this server did it");
  }

  /** {@return how many erasures were done}: past revisions that were read before may name them */
  public long count() {
    Long count =
        database.queryForObject("select count(*) from trail where act = 'erased'", Long.class);
    return count == null ? 0 : count;
  }
}
