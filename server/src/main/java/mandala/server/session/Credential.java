package mandala.server.session;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import org.jspecify.annotations.Nullable;

/** How a principal proves who it is: a password, and a TOTP secret where it is enrolled. */
@Entity
@Table(name = "credential")
class Credential {

  @Id private String principal = "";

  @Column(name = "password_hash")
  private String passwordHash = "";

  @Column(name = "totp_secret")
  private @Nullable String totpSecret;

  @Column(name = "totp_last_step")
  private long totpLastStep = -1;

  protected Credential() {}

  Credential(String principal, String passwordHash, @Nullable String totpSecret) {
    this.principal = principal;
    this.passwordHash = passwordHash;
    this.totpSecret = totpSecret;
  }

  String principal() {
    return principal;
  }

  String passwordHash() {
    return passwordHash;
  }

  @Nullable String totpSecret() {
    return totpSecret;
  }

  long lastStep() {
    return totpLastStep;
  }

  void rehash(String hash) {
    passwordHash = hash;
  }

  void sealAgain(String sealed) {
    totpSecret = sealed;
  }

  /** {@return whether a code's step is later than any used before}, and remembers it then */
  boolean use(long step) {
    if (step <= totpLastStep) {
      return false;
    }
    totpLastStep = step;
    return true;
  }
}
