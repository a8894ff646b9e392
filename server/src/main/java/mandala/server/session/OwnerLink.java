package mandala.server.session;

import jakarta.persistence.EntityManager;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Duration;
import java.util.Base64;
import mandala.server.platform.Problem;
import org.apache.commons.codec.digest.DigestUtils;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The one-time link with which the first owner is created; only its hash is kept. */
@Component
public class OwnerLink {

  /** So long after it was printed. */
  static final Duration GOOD_FOR = Duration.ofHours(1);

  private final EntityManager entities;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  OwnerLink(EntityManager entities, Clock clock) {
    this.entities = entities;
    this.clock = clock;
  }

  /** {@return a new token}, in place of any before it */
  @Transactional
  public String renew() {
    byte[] bytes = new byte[24];
    random.nextBytes(bytes);
    String token = Base64.getUrlEncoder().withoutPadding().encodeToString(bytes);
    entities.createNativeQuery("delete from owner_link").executeUpdate();
    entities
        .createNativeQuery(
            "insert into owner_link (token_hash, expires_at) values (:hash, :expires)")
        .setParameter("hash", DigestUtils.sha256Hex(token))
        .setParameter("expires", clock.instant().plus(GOOD_FOR))
        .executeUpdate();
    return token;
  }

  /**
   * Says whether a token is good.
   *
   * @throws Problem if it is not, or was used
   */
  @Transactional(readOnly = true)
  public void require(String token) {
    boolean good =
        !entities
            .createNativeQuery(
                "select 1 from owner_link where token_hash = :hash and used_at is null"
                    + " and expires_at > :now")
            .setParameter("hash", DigestUtils.sha256Hex(token))
            .setParameter("now", clock.instant())
            .getResultList()
            .isEmpty();
    if (!good) {
      throw Problem.notFound(
          "This link has expired. Start Mandala again: it prints a new one while there is"
              + " no owner.");
    }
  }

  /** Uses a token up within the running transaction of {@code session}. */
  void use(EntityManager session, String token) {
    int used =
        session
            .createNativeQuery(
                "update owner_link set used_at = :now where token_hash = :hash and used_at is null"
                    + " and expires_at > :now")
            .setParameter("now", clock.instant())
            .setParameter("hash", DigestUtils.sha256Hex(token))
            .executeUpdate();
    if (used != 1) {
      throw Problem.notFound("The link was used already. Sign in as the owner.");
    }
  }
}
