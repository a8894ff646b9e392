package mandala.server.session;

import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.Base64;
import java.util.HashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import mandala.core.model.key.PrincipalKey;
import org.apache.commons.codec.binary.Base32;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * One-time secrets with which somebody chooses their password: a link by mail, or a first password
 * that an administrator passes on. Only hashes are kept; a newer one ends those before it.
 */
@Component
public class SignInLinks {

  /** What a secret is for, and how long it can be used. */
  public enum Purpose {
    INVITATION(Duration.ofDays(7)),
    RESET(Duration.ofHours(4)),
    FIRST_PASSWORD(Duration.ofDays(7));

    private final Duration usable;

    Purpose(Duration usable) {
      this.usable = usable;
    }

    /** {@return how long it can be used} */
    public Duration usable() {
      return usable;
    }

    /** {@return the word for it} */
    public String word() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    static Purpose of(String word) {
      return valueOf(word.toUpperCase(Locale.ROOT).replace('-', '_'));
    }
  }

  /** A secret that can be used. */
  public record Link(String hash, PrincipalKey principal, Purpose purpose, Instant ends) {}

  private final JdbcTemplate database;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  SignInLinks(JdbcTemplate database, Clock clock) {
    this.database = database;
    this.clock = clock;
  }

  /** {@return when invitations were sent last}, by the key of whom they invite */
  public Map<String, Instant> invitedSince() {
    Map<String, Instant> since = new HashMap<>();
    database.query(
        "select principal, max(made_at) from sign_in_link where purpose = 'invitation'"
            + " group by principal",
        row -> {
          since.put(row.getString(1), row.getTimestamp(2).toInstant());
        });
    return since;
  }

  /**
   * {@return a new secret for a link}, the only time that it is there
   *
   * @param by key of whoever has it made, null where it is made by itself
   */
  @Transactional
  public String renew(
      PrincipalKey principal, Purpose purpose, String address, @Nullable String by) {
    byte[] bits = new byte[24];
    random.nextBytes(bits);
    String secret = Base64.getUrlEncoder().withoutPadding().encodeToString(bits);
    keep(DigestUtils.sha256Hex(secret), principal, purpose, address, by);
    return secret;
  }

  /** {@return a new first password}, the only time that it is there */
  @Transactional
  public String firstPassword(PrincipalKey principal, String by) {
    byte[] bits = new byte[10];
    random.nextBytes(bits);
    String text = new Base32().encodeToString(bits).toLowerCase(Locale.ROOT);
    String secret = text.replaceAll("(.{4})(?=.)", "$1-");
    keep(hash(principal, secret), principal, Purpose.FIRST_PASSWORD, null, by);
    return secret;
  }

  private void keep(
      String hash,
      PrincipalKey principal,
      Purpose purpose,
      @Nullable String address,
      @Nullable String by) {
    Instant now = now();
    database.update("delete from sign_in_link where principal = ?", principal.value());
    database.update(
        "insert into sign_in_link (hash, principal, purpose, address, made_at, made_by, ends_at)"
            + " values (?, ?, ?, ?, ?, ?, ?)",
        hash,
        principal.value(),
        purpose.word(),
        address,
        now.atOffset(ZoneOffset.UTC),
        by,
        now.plus(purpose.usable()).atOffset(ZoneOffset.UTC));
  }

  private static String hash(PrincipalKey principal, String firstPassword) {
    String typed = firstPassword.strip().toLowerCase(Locale.ROOT);
    return DigestUtils.sha256Hex(principal.value() + ":" + typed);
  }

  /**
   * {@return what a link's secret lets somebody do}, none where it was used, replaced or is over
   */
  public Optional<Link> find(String secret) {
    return byHash(DigestUtils.sha256Hex(secret));
  }

  /** {@return what a first password lets its person do} */
  public Optional<Link> find(PrincipalKey principal, String firstPassword) {
    return byHash(hash(principal, firstPassword));
  }

  private Optional<Link> byHash(String hash) {
    return database
        .query(
            "select principal, purpose, ends_at from sign_in_link where hash = ? and ends_at > ?",
            (row, _) ->
                new Link(
                    hash,
                    new PrincipalKey(row.getString("principal")),
                    Purpose.of(row.getString("purpose")),
                    row.getTimestamp("ends_at").toInstant()),
            hash,
            now().atOffset(ZoneOffset.UTC))
        .stream()
        .findFirst();
  }

  /** Uses a secret up in the running transaction; {@return whether this call did} */
  public boolean use(Link link) {
    return database.update(
            "delete from sign_in_link where hash = ? and ends_at > ?",
            link.hash(),
            now().atOffset(ZoneOffset.UTC))
        == 1;
  }

  private Instant now() {
    return clock.instant().truncatedTo(ChronoUnit.SECONDS);
  }
}
