package mandala.server.token;

import java.security.SecureRandom;
import java.sql.Array;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.Departure;
import mandala.server.model.StatusListener;
import mandala.server.session.SeenTimes;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Keeps tokens. A secret has 256 random bits, so that its SHA-256 tells nothing of it; it is shown
 * when it is made, and never again.
 */
@Component
public class Tokens implements Departure, StatusListener {

  /** Stands before each secret, so that one that got into a file is recognised. */
  static final String PREFIX = "mandala_";

  private static final Duration ENDED_SHOWN = Duration.ofDays(90);

  private final JdbcTemplate database;
  private final SeenTimes seen;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  Tokens(JdbcTemplate database, SeenTimes seen, Clock clock) {
    this.seen = seen;
    this.database = database;
    this.clock = clock;
  }

  /** A token and its secret. */
  record Made(Token token, String secret) {
    @Override
    public String toString() {
      return "Made[" + token + "]";
    }
  }

  /** What a token is to be. */
  record Order(
      String name,
      PrincipalKey principal,
      Set<String> purposes,
      Set<String> accounts,
      Instant ends) {}

  /** {@return a new token}, the only time with its secret */
  @Transactional
  Made make(Order order, PrincipalKey madeBy) {
    byte[] bits = new byte[32];
    random.nextBytes(bits);
    String secret = PREFIX + Base64.getUrlEncoder().withoutPadding().encodeToString(bits);
    Token token =
        new Token(
            UUID.randomUUID().toString(),
            order.name(),
            order.principal().value(),
            order.purposes(),
            order.accounts(),
            madeBy.value(),
            now(),
            order.ends(),
            null,
            null,
            null);
    database.update(
        "insert into token (id, name, principal, purposes, accounts, hash, made_by, made_at,"
            + " ends_at) values (?, ?, ?, ?, ?, ?, ?, ?, ?)",
        token.id(),
        token.name(),
        token.principal(),
        token.purposes().toArray(new String[0]),
        token.accounts().toArray(new String[0]),
        DigestUtils.sha256Hex(secret),
        token.madeBy(),
        token.made().atOffset(ZoneOffset.UTC),
        token.ends().atOffset(ZoneOffset.UTC));
    return new Made(token, secret);
  }

  /** {@return the token of a secret}, if there is one and it holds now */
  Optional<Token> find(String secret) {
    return secret.startsWith(PREFIX)
        ? query("where hash = ?", DigestUtils.sha256Hex(secret)).stream()
            .filter(it -> it.holdsAt(clock.instant()))
            .findFirst()
        : Optional.empty();
  }

  /** {@return a token} */
  Optional<Token> get(String id) {
    return query("where id = ?", id).stream().findFirst();
  }

  /** {@return the tokens, newest first}, without those that ended long ago */
  List<Token> all() {
    return query(
        "where ends_at > ? and coalesce(revoked_at, ends_at) > ? order by made_at desc, id",
        now().minus(ENDED_SHOWN).atOffset(ZoneOffset.UTC),
        now().minus(ENDED_SHOWN).atOffset(ZoneOffset.UTC));
  }

  /** {@return the tokens of a principal that hold now}, none of them changing meanwhile */
  List<Token> holding(PrincipalKey principal) {
    database.query("select pg_advisory_xact_lock(hashtext(?))", _ -> {}, "token:" + principal);
    return query(
        "where principal = ? and revoked_at is null and ends_at > ?",
        principal.value(),
        now().atOffset(ZoneOffset.UTC));
  }

  /** {@return how many tokens of a principal hold now} */
  public int count(PrincipalKey of) {
    Integer found =
        database.queryForObject(
            "select count(*) from token"
                + " where principal = ? and revoked_at is null and ends_at > ?",
            Integer.class,
            of.value(),
            now().atOffset(ZoneOffset.UTC));
    return found == null ? 0 : found;
  }

  /** Ends a token; one that was revoked stays as it is. {@return whether this ended it} */
  @Transactional
  boolean revoke(String id, PrincipalKey by) {
    return database.update(
            "update token set revoked_at = ?, revoked_by = ? where id = ? and revoked_at is null",
            now().atOffset(ZoneOffset.UTC),
            by.value(),
            id)
        == 1;
  }

  /**
   * Notes that a token is used, at most once a minute.
   *
   * @return whether it is its first use on this day, in UTC
   */
  @Transactional
  boolean used(Token token, @Nullable String from) {
    Instant now = now();
    Instant before = token.used();
    if (before != null && before.plus(1, ChronoUnit.MINUTES).isAfter(now)) {
      return false;
    }
    seen.note(new PrincipalKey(token.principal()), now);
    Instant day = now.truncatedTo(ChronoUnit.DAYS);
    List<Boolean> first =
        database.query(
            "update token now set used_at = ?, used_from = ?"
                + " from (select id, used_at from token where id = ? for update) before"
                + " where now.id = before.id returning before.used_at is null or before.used_at < ?",
            (row, _) -> row.getBoolean(1),
            now.atOffset(ZoneOffset.UTC),
            from,
            token.id(),
            day.atOffset(ZoneOffset.UTC));
    return first.contains(true);
  }

  @Override
  public void of(Set<PrincipalKey> gone) {
    for (PrincipalKey it : gone) {
      database.update("delete from token where principal = ?", it.value());
    }
  }

  /** Who left reports nothing and reads nothing: their tokens are revoked. */
  @Override
  public void changed(List<StatusChange> changes) {
    for (StatusChange it : changes) {
      if (it.became(Principal.Status.LEFT)) {
        revokeAll(it.after().key(), it.after().key());
      }
    }
  }

  /**
   * Revokes the tokens of a principal that hold.
   *
   * @param by whoever does it
   * @return how many there were
   */
  @Transactional
  public int revokeAll(PrincipalKey of, PrincipalKey by) {
    return database.update(
        "update token set revoked_at = ?, revoked_by = ?"
            + " where principal = ? and revoked_at is null and ends_at > ?",
        now().atOffset(ZoneOffset.UTC),
        by.value(),
        of.value(),
        now().atOffset(ZoneOffset.UTC));
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.SECONDS);
  }

  private List<Token> query(String condition, Object... values) {
    return database.query(
        "select id, name, principal, purposes, accounts, made_by, made_at, ends_at, used_at,"
            + " used_from, revoked_at from token "
            + condition,
        (row, _) -> token(row),
        values);
  }

  private static Token token(ResultSet row) throws SQLException {
    return new Token(
        row.getString("id"),
        row.getString("name"),
        row.getString("principal"),
        words(row.getArray("purposes")),
        words(row.getArray("accounts")),
        row.getString("made_by"),
        row.getTimestamp("made_at").toInstant(),
        row.getTimestamp("ends_at").toInstant(),
        instant(row.getTimestamp("used_at")),
        row.getString("used_from"),
        instant(row.getTimestamp("revoked_at")));
  }

  private static Set<String> words(Array array) throws SQLException {
    return Set.of((String[]) array.getArray());
  }

  private static @Nullable Instant instant(@Nullable Timestamp at) {
    return at == null ? null : at.toInstant();
  }
}
