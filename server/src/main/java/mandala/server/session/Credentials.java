package mandala.server.session;

import jakarta.persistence.EntityManager;
import java.time.Instant;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Makes credentials. */
@Component
public class Credentials {

  private final PasswordEncoder passwords;
  private final EntityManager entities;

  private final TotpSecrets secrets;

  Credentials(PasswordEncoder passwords, EntityManager entities, TotpSecrets secrets) {
    this.secrets = secrets;
    this.passwords = passwords;
    this.entities = entities;
  }

  /** {@return the hash of a password}, to be kept for one or for many */
  public String hash(String password) {
    return String.valueOf(passwords.encode(password));
  }

  /** Keeps a credential, in place of any before it, in the running transaction. */
  public void keep(
      EntityManager session, PrincipalKey principal, String hash, @Nullable String totpSecret) {
    session.merge(
        new Credential(
            principal.value(),
            hash,
            totpSecret == null ? null : secrets.seal(principal.value(), totpSecret)));
  }

  /** Keeps another password in the running transaction; a second factor stays. */
  public void choose(EntityManager session, PrincipalKey principal, String hash) {
    Credential known = session.find(Credential.class, principal.value());
    if (known == null) {
      session.persist(new Credential(principal.value(), hash, null));
    } else {
      known.rehash(hash);
    }
  }

  /**
   * {@return the code with which a demo person can sign in now}: the current one, or the next where
   * the current one was used
   */
  @Transactional(readOnly = true)
  public String demoCode(PrincipalKey principal, Instant now) {
    Credential credential = entities.find(Credential.class, principal.value());
    long current = now.getEpochSecond() / Totp.STEP_SECONDS;
    boolean used = credential != null && credential.lastStep() >= current;
    return DemoCredentials.codeOf(principal, used ? now.plusSeconds(Totp.STEP_SECONDS) : now);
  }
}
