package mandala.server.erasure;

import java.security.SecureRandom;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.HexFormat;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Repository;

/** Erasures that were ordered. */
@Repository
class ErasureStore {

  private static final int KEY_BYTES = 6;

  private final JdbcTemplate database;
  private final SecureRandom random = new SecureRandom();

  ErasureStore(JdbcTemplate database) {
    this.database = database;
  }

  /**
   * An erasure that is not done.
   *
   * @param erased the key that will replace theirs
   */
  record Ordered(
      String erased, String principal, String account, String orderedBy, String reason) {}

  /** Orders an erasure; {@return whether none was ordered already} */
  boolean order(String principal, String account, String by, Instant at, String reason) {
    byte[] bytes = new byte[KEY_BYTES];
    random.nextBytes(bytes);
    return database.update(
            """
            insert into erasure (erased, principal, account, ordered_by, ordered_at, reason)
              values (?, ?, ?, ?, ?, ?) on conflict (principal) do nothing
            """,
            "erased-" + HexFormat.of().formatHex(bytes),
            principal,
            account,
            by,
            at.atOffset(ZoneOffset.UTC),
            reason)
        == 1;
  }

  boolean isOrdered(String principal) {
    return !database
        .queryForList("select 1 from erasure where principal = ?", Integer.class, principal)
        .isEmpty();
  }

  List<String> orderedBefore(Instant at) {
    return database.query(
        "select erased from erasure where principal is not null and ordered_at < ?"
            + " order by ordered_at",
        (row, _) -> row.getString(1),
        at.atOffset(ZoneOffset.UTC));
  }

  /** {@return one that is not done}, held until the running transaction ends */
  Optional<Ordered> take(String erased) {
    return database
        .query(
            """
            select erased, principal, account, ordered_by, reason from erasure
              where erased = ? and principal is not null for update skip locked
            """,
            (row, _) ->
                new Ordered(
                    row.getString(1),
                    row.getString(2),
                    row.getString(3),
                    row.getString(4),
                    row.getString(5)),
            erased)
        .stream()
        .findFirst();
  }

  /** Notes that one is done, with its reason as it may be read from now on. */
  void done(String erased, String reason) {
    database.update(
        "update erasure set principal = null, reason = ? where erased = ?", reason, erased);
  }

  /** The record of somebody who was removed, as the trail keeps it. */
  record Gone(String json, long revision) {}

  Optional<Gone> gone(String principal) {
    return database
        .query(
            """
            select before, revision from trail where kind = 'principals' and thing = ?
                and act = 'changed' and after is null and before is not null
              order by seq desc limit 1
            """,
            (row, _) -> new Gone(row.getString(1), row.getLong(2)),
            principal)
        .stream()
        .findFirst();
  }
}
