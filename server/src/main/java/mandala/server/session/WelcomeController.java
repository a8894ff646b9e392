package mandala.server.session;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.check.Fault;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The first owner of an empty Mandala. */
@RestController
@RequestMapping("/api/welcome")
class WelcomeController {

  private final OwnerLink link;
  private final LiveModel model;
  private final Credentials credentials;
  private final Clock clock;

  WelcomeController(OwnerLink link, LiveModel model, Credentials credentials, Clock clock) {
    this.link = link;
    this.model = model;
    this.credentials = credentials;
    this.clock = clock;
  }

  /** A secret for the owner's authenticator, as text, as an address and as a QR code to draw. */
  record Enrolment(String secret, String address, Totp.@Nullable Qr qr) {}

  /** The first account and its owner; {@code code} shows that the authenticator has the secret. */
  record FirstOwner(
      @NotBlank String token,
      @NotBlank @Size(max = 100) String accountKey,
      @NotBlank @Size(max = 200) String accountName,
      @NotBlank @Size(max = 100) String key,
      @NotBlank @Size(max = 200) String name,
      @Nullable @Size(max = 200) String email,
      @NotBlank @Size(min = 10, max = 500) String password,
      @NotBlank @Size(max = 200) String secret,
      @NotBlank @Size(max = 20) String code) {}

  @GetMapping
  Enrolment begin(@RequestParam String token) {
    link.require(token);
    String secret = Totp.newSecret();
    String address = Totp.address(secret, "owner");
    return new Enrolment(secret, address, Totp.qr(address).orElse(null));
  }

  @PostMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void create(@Valid @RequestBody FirstOwner owner) {
    link.require(owner.token());
    if (model.state().revision() > 0) {
      throw Problem.conflict("There is an owner already", "Sign in as the owner, or start afresh.");
    }
    if (!Totp.isSecret(owner.secret())) {
      throw Problem.badRequest(
          "The authenticator's secret can't be read",
          "Send the secret that this page gave, unchanged. Reload the page for a new one.");
    }
    if (Totp.step(owner.secret(), owner.code(), clock.instant()).isEmpty()) {
      throw Problem.badRequest(
          "The code is not right", "Read the current code from your authenticator and type it.");
    }
    AccessModel first = model(owner);
    List<Fault> faults = ModelCheck.faultsOf(first);
    if (!faults.isEmpty()) {
      throw Problem.faulty("The owner cannot be created so", faults);
    }
    PrincipalKey key = new PrincipalKey(owner.key());
    model.replace(
        first,
        false,
        entities -> {
          link.use(entities, owner.token());
          credentials.keep(entities, key, credentials.hash(owner.password()), owner.secret());
        });
  }

  @SuppressWarnings(
      "NullAway") // javac drops Key.@Nullable X from compact constructors' class files
  private static AccessModel model(FirstOwner owner) {
    AccountKey account = new AccountKey(owner.accountKey());
    PrincipalKey key = new PrincipalKey(owner.key());
    return AccessModel.builder()
        .add(
            new Account(account, About.named(owner.accountName()), null, false, false),
            new Principal(
                key,
                About.named(owner.name()),
                Principal.Kind.PERSON,
                account,
                null,
                null,
                Principal.Status.ACTIVE,
                Window.ALWAYS,
                true,
                Map.of(),
                null,
                List.of(),
                owner.email() == null || owner.email().isBlank() ? null : owner.email(),
                null,
                null),
            new Assignment(
                new AssignmentKey("first-owner"),
                About.NONE,
                new Subject.OfPrincipal(Principal.Kind.PERSON, key),
                new Gives.OfRole(Supplied.OWNER),
                Assignment.Effect.ALLOW,
                List.of(Clause.of(new Term.Tree(ResourceKey.of(account)))),
                List.of(),
                Window.ALWAYS,
                Assignment.Mode.STANDING,
                true))
        .build();
  }
}
