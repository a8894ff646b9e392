package mandala.server.session;

import java.time.Instant;
import java.util.List;
import java.util.Set;
import mandala.core.model.key.PrincipalKey;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.stereotype.Component;

/** How somebody signs in, and where they are signed in now. */
@Component
public class SignInFacts {

  private final JdbcTemplate database;

  SignInFacts(JdbcTemplate database) {
    this.database = database;
  }

  /**
   * How somebody signs in.
   *
   * @param password whether they have one here
   * @param secondFactor whether an authenticator is enrolled
   * @param sessions that have not ended, the last used first
   */
  public record SignInView(boolean password, boolean secondFactor, List<SessionFact> sessions) {}

  /** A session: when it began and was last used. */
  public record SessionFact(Instant since, Instant lastUsed) {}

  /** {@return who has a password here} */
  public Set<PrincipalKey> withPassword() {
    return Set.copyOf(
        database.query(
            "select principal from credential", (row, _) -> new PrincipalKey(row.getString(1))));
  }

  /** {@return the facts of a principal}; nothing in them lets anybody sign in */
  public SignInView of(PrincipalKey principal) {
    List<Boolean> factor =
        database.query(
            "select totp_secret is not null from credential where principal = ?",
            (row, _) -> row.getBoolean(1),
            principal.value());
    List<SessionFact> sessions =
        database.query(
            """
            select creation_time, last_access_time from spring_session
            where principal_name = ? and expiry_time > extract(epoch from now()) * 1000
            order by last_access_time desc limit 20
            """,
            (row, _) ->
                new SessionFact(
                    Instant.ofEpochMilli(row.getLong(1)), Instant.ofEpochMilli(row.getLong(2))),
            principal.value());
    return new SignInView(!factor.isEmpty(), factor.contains(true), sessions);
  }
}
