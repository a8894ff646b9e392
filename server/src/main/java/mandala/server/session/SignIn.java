package mandala.server.session;

import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.time.Clock;
import java.util.OptionalLong;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Principal;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Checks passwords and codes. A refusal does not say which of name, password and state is wrong.
 */
@Service
public class SignIn {

  private final EntityManager entities;
  private final PasswordEncoder passwords;
  private final LiveModel model;
  private final Clock clock;

  /** Compared with where there is no such name, so that both take the same time. */
  private final String decoy;

  SignIn(EntityManager entities, PasswordEncoder passwords, LiveModel model, Clock clock) {
    this.entities = entities;
    this.passwords = passwords;
    this.model = model;
    this.clock = clock;
    this.decoy = String.valueOf(passwords.encode("decoy"));
  }

  /**
   * {@return the key of who signs in by a key or an e-mail address}; unknown names stay as typed
   */
  Key.Principal named(String typed) {
    String name = typed.strip();
    Catalogue catalogue = model.engine().catalogue();
    if (name.contains("@")) {
      for (Principal principal : catalogue.principals().values()) {
        if (name.equalsIgnoreCase(principal.email())) {
          return principal.key();
        }
      }
    }
    return new Key.Principal(name.isEmpty() ? "?" : name);
  }

  /**
   * {@return who signs in}
   *
   * @param code the current code of the second factor, or null to sign in without
   * @throws Problem if the name, the password or the code is not right
   */
  @Transactional
  public SignedIn check(Key.Principal name, String password, @Nullable String code) {
    Credential credential =
        entities.find(Credential.class, name.value(), LockModeType.PESSIMISTIC_WRITE);
    boolean matches =
        passwords.matches(password, credential == null ? decoy : credential.passwordHash());
    if (credential == null || !matches || !model.engine().isActive(name, clock.instant())) {
      throw Problem.signedOut("The name or the password is not right. Check both and try again.");
    }
    return new SignedIn(name.value(), code != null && !code.isBlank() && hasCode(credential, code));
  }

  private boolean hasCode(Credential credential, String code) {
    OptionalLong step =
        credential.totpSecret() == null
            ? OptionalLong.empty()
            : Totp.step(credential.totpSecret(), code, clock.instant());
    if (step.isEmpty() || !credential.use(step.getAsLong())) {
      throw Problem.signedOut(
          "The code is not right, or was used before. Wait for the next one and try again.");
    }
    return true;
  }

  /**
   * {@return the session with its second factor shown}
   *
   * @throws Problem if the code is not right
   */
  @Transactional
  public SignedIn stepUp(SignedIn signedIn, String code) {
    Credential credential =
        entities.find(Credential.class, signedIn.principal(), LockModeType.PESSIMISTIC_WRITE);
    if (credential == null || credential.totpSecret() == null) {
      throw Problem.badRequest("No second factor", "You are not enrolled for a second factor.");
    }
    return new SignedIn(signedIn.principal(), hasCode(credential, code));
  }

  /** {@return whether a principal has a second factor to show} */
  @Transactional(readOnly = true)
  public boolean isEnrolled(String principal) {
    Credential credential = entities.find(Credential.class, principal);
    return credential != null && credential.totpSecret() != null;
  }
}
