package mandala.server.session;

import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.time.Clock;
import java.util.List;
import java.util.OptionalLong;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.security.crypto.password.PasswordEncoder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Checks passwords and codes. A refusal does not say which of name, password and state is wrong.
 */
@Service
public class SignIn {

  private static final Logger LOG = LoggerFactory.getLogger(SignIn.class);

  private final EntityManager entities;
  private final PasswordEncoder passwords;
  private final LiveModel model;
  private final Clock clock;
  private final Throttle throttle;
  private final TotpSecrets secrets;
  private final TransactionTemplate transactions;

  /** Compared with where there is no such name, so that both take the same time. */
  private final String decoy;

  SignIn(
      EntityManager entities,
      PasswordEncoder passwords,
      LiveModel model,
      Clock clock,
      Throttle throttle,
      TotpSecrets secrets,
      TransactionTemplate transactions) {
    this.transactions = transactions;
    this.throttle = throttle;
    this.secrets = secrets;
    this.entities = entities;
    this.passwords = passwords;
    this.model = model;
    this.clock = clock;
    this.decoy = String.valueOf(passwords.encode("decoy"));
  }

  /**
   * {@return the key of who signs in by a key or an e-mail address}; unknown names stay as typed
   */
  public PrincipalKey named(String typed) {
    String name = typed.strip();
    Catalogue catalogue = model.engine().catalogue();
    if (name.contains("@")) {
      List<PrincipalKey> found =
          catalogue.principals().values().stream()
              .filter(it -> name.equalsIgnoreCase(it.email()))
              .map(Principal::key)
              .toList();
      if (found.size() == 1) { // an address of two people signs in neither
        return found.getFirst();
      }
    }
    return new PrincipalKey(name.isEmpty() ? "?" : name);
  }

  /**
   * {@return who signs in}
   *
   * @param code the current code of the second factor, or null to sign in without
   * @throws Problem if the name, the password or the code is not right, or too many codes were
   *     wrong
   */
  public SignedIn check(PrincipalKey name, String password, @Nullable String code) {
    transactions.executeWithoutResult(_ -> requirePassword(name, password));
    boolean shown = code != null && !code.isBlank();
    if (shown && code != null) {
      requireCode(name.value(), code);
    }
    return new SignedIn(name.value(), shown);
  }

  private void requirePassword(PrincipalKey name, String password) {
    Credential credential =
        entities.find(Credential.class, name.value(), LockModeType.PESSIMISTIC_WRITE);
    boolean matches =
        passwords.matches(password, credential == null ? decoy : credential.passwordHash());
    if (credential == null || !matches || !model.engine().isActive(name, clock.instant())) {
      throw Problem.signedOut("The name or the password is wrong. Check both and try again.");
    }
    if (passwords.upgradeEncoding(credential.passwordHash())) {
      credential.rehash(String.valueOf(passwords.encode(password)));
    }
  }

  /** Within the limit of wrong codes, which is counted outside of any transaction. */
  private void requireCode(String principal, String code) {
    throttle.code(principal);
    boolean right =
        Boolean.TRUE.equals(
            transactions.execute(_ -> {
              Credential credential =
                  entities.find(Credential.class, principal, LockModeType.PESSIMISTIC_WRITE);
              return credential != null && isRight(credential, code);
            }));
    if (!right) {
      throw Problem.signedOut(
          "The code is wrong, or was used before. Wait for the next code and try again.");
    }
    throttle.rightCode(principal);
  }

  private boolean isRight(Credential credential, String code) {
    String sealed = credential.totpSecret();
    if (sealed == null) {
      return false;
    }
    try {
      String secret = secrets.open(credential.principal(), sealed);
      OptionalLong step = Totp.step(secret, code, clock.instant());
      return step.isPresent() && credential.use(step.getAsLong());
    } catch (IllegalStateException e) {
      LOG.error("A second factor cannot be checked: {}", e.getMessage());
      return false;
    }
  }

  /**
   * {@return the session with its second factor shown}
   *
   * @throws Problem if the code is not right, or too many were wrong
   */
  public SignedIn stepUp(SignedIn signedIn, String code) {
    if (!isEnrolled(signedIn.principal())) {
      throw Problem.badRequest(
          "No second factor",
          "You are not enrolled for a second factor. Enrol one on your page under “You” first.");
    }
    requireCode(signedIn.principal(), code);
    return new SignedIn(signedIn.principal(), true);
  }

  /**
   * Has somebody who is signed in prove once more who they are, within the limit of wrong tries
   * that only they can use up.
   *
   * @return whether it was a second factor
   * @throws Problem if it is not right, or was tried too often
   */
  public boolean prove(Session signedIn, String proof) {
    String principal = signedIn.principal().value();
    if (proof.isBlank()) {
      throw Problem.badRequest(
          "The code is missing", "Give the current code, or your password, and try again.");
    }
    boolean own = signedIn.mfa() || !isEnrolled(principal);
    throttle.proof(principal, own);
    boolean factor =
        Boolean.TRUE.equals(transactions.execute(_ -> confirm(signedIn.principal(), proof)));
    throttle.proven(principal, own);
    return factor;
  }

  /** {@return whether it was a second factor}; the password counts where none is enrolled */
  private boolean confirm(PrincipalKey who, String proof) {
    Credential credential =
        entities.find(Credential.class, who.value(), LockModeType.PESSIMISTIC_WRITE);
    if (credential == null) {
      throw Problem.badRequest(
          "Nothing to prove it with",
          "You have no password here. Use your second factor, or ask a security administrator.");
    }
    if (credential.totpSecret() != null) {
      if (!isRight(credential, proof.strip())) {
        throw Problem.badRequest(
            "The code is not right",
            "It is wrong, or was used before. Nothing was changed. Wait for the next code.");
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
  public boolean isEnrolled(String principal) {
    return Boolean.TRUE.equals(
        transactions.execute(_ -> {
          Credential credential = entities.find(Credential.class, principal);
          return credential != null && credential.totpSecret() != null;
        }));
  }
}
