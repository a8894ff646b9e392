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
    if (!isRight(credential, code)) {
      throw Problem.signedOut(
          "The code is not right, or was used before. Wait for the next one and try again.");
    }
    return true;
  }

  private boolean isRight(Credential credential, String code) {
    OptionalLong step =
        credential.totpSecret() == null
            ? OptionalLong.empty()
            : Totp.step(credential.totpSecret(), code, clock.instant());
    return step.isPresent() && credential.use(step.getAsLong());
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

  /**
   * Has somebody who is signed in prove once more who they are, before something that cannot be
   * done by accident.
   *
   * @param proof the current code where they are enrolled, else the password
   * @return whether it was a second factor
   * @throws Problem if it is not right
   */
  @Transactional
  public boolean confirm(Key.Principal who, String proof) {
    Credential credential =
        entities.find(Credential.class, who.value(), LockModeType.PESSIMISTIC_WRITE);
    if (credential == null) {
      throw Problem.badRequest("Nothing to prove it with", "You have no password here.");
    }
    if (credential.totpSecret() != null) {
      if (proof.isBlank()) {
        throw Problem.badRequest("The code is missing", "Give the current code and try again.");
      }
      if (!isRight(credential, proof.strip())) {
        throw Problem.badRequest(
            "The code is not right",
            "It is wrong, or was used before. Nothing was changed. Wait for the next one.");
      }
      return true;
    }
    if (!passwords.matches(proof, credential.passwordHash())) {
      throw Problem.badRequest(
          "The password is not right", "Nothing was changed. Type it again and try once more.");
    }
    return false;
  }

  /** {@return whether a principal has a second factor to show} */
  @Transactional(readOnly = true)
  public boolean isEnrolled(String principal) {
    Credential credential = entities.find(Credential.class, principal);
    return credential != null && credential.totpSecret() != null;
  }
}
