package mandala.server.session;

import jakarta.persistence.EntityManager;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.SecureRandom;
import java.util.Base64;
import java.util.List;
import javax.crypto.Cipher;
import javax.crypto.spec.GCMParameterSpec;
import javax.crypto.spec.SecretKeySpec;
import mandala.server.platform.Secrets;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * Seals the secrets of second factors with a key that is kept outside of the database (AES-256-GCM,
 * bound to the principal): whoever has the tables alone can make no codes, and a sealed secret
 * moved to another person opens for nobody.
 */
@Component
public class TotpSecrets {

  private static final String SEALED = "v1:";
  private static final String KEY = "totp";
  private static final int NONCE = 12;
  private static final int TAG_BITS = 128;

  private final Secrets secrets;
  private final EntityManager entities;
  private final SecureRandom random = new SecureRandom();

  private final boolean onlyVerifying;

  TotpSecrets(
      Secrets secrets,
      EntityManager entities,
      @Value("${mandala.verify-trail:false}") boolean onlyVerifying) {
    this.onlyVerifying = onlyVerifying;
    this.secrets = secrets;
    this.entities = entities;
  }

  /** {@return a secret sealed for a principal} */
  String seal(String principal, String secret) {
    byte[] nonce = new byte[NONCE];
    random.nextBytes(nonce);
    byte[] sealed =
        crypt(Cipher.ENCRYPT_MODE, principal, nonce, secret.getBytes(StandardCharsets.UTF_8));
    byte[] all = new byte[NONCE + sealed.length];
    System.arraycopy(nonce, 0, all, 0, NONCE);
    System.arraycopy(sealed, 0, all, NONCE, sealed.length);
    return SEALED + Base64.getEncoder().encodeToString(all);
  }

  /**
   * {@return a principal's secret}; one that an earlier version kept open is itself
   *
   * @throws IllegalStateException if it was sealed for somebody else, altered, or with another key
   */
  String open(String principal, String kept) {
    if (!kept.startsWith(SEALED)) {
      return kept;
    }
    byte[] all = Base64.getDecoder().decode(kept.substring(SEALED.length()));
    byte[] nonce = java.util.Arrays.copyOf(all, NONCE);
    byte[] sealed = java.util.Arrays.copyOfRange(all, NONCE, all.length);
    return new String(crypt(Cipher.DECRYPT_MODE, principal, nonce, sealed), StandardCharsets.UTF_8);
  }

  private byte[] crypt(int mode, String principal, byte[] nonce, byte[] text) {
    try {
      Cipher cipher = Cipher.getInstance("AES/GCM/NoPadding");
      cipher.init(
          mode,
          new SecretKeySpec(secrets.secret(KEY), "AES"),
          new GCMParameterSpec(TAG_BITS, nonce));
      cipher.updateAAD(principal.getBytes(StandardCharsets.UTF_8));
      return cipher.doFinal(text);
    } catch (GeneralSecurityException e) {
      throw new IllegalStateException(
          "The second factor of '"
              + principal
              + "' does not open with the key of this server. Is it the folder of keys that belongs"
              + " to this database?",
          e);
    }
  }

  /** What an earlier version kept open is sealed at the first start. */
  @EventListener(ApplicationReadyEvent.class)
  @Transactional
  public void sealWhatIsOpen() {
    if (onlyVerifying) {
      return; // a command that only reads the trail writes nothing
    }
    List<Credential> open =
        entities
            .createQuery(
                "from Credential where totpSecret is not null and totpSecret not like 'v1:%'",
                Credential.class)
            .getResultList();
    for (Credential it : open) {
      String secret = it.totpSecret();
      if (secret != null) {
        it.sealAgain(seal(it.principal(), secret));
      }
    }
  }
}
