package mandala.server.lifecycle;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import mandala.server.session.SignInLinks;
import mandala.server.session.SignInLinks.Link;
import mandala.server.session.Throttle;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** The first sign-in of who was invited, and new passwords; for callers who are not signed in. */
@RestController
@RequestMapping("/api/join")
class JoinController {

  private final SignInLinks links;
  private final Joining joining;
  private final LiveModel model;
  private final Throttle throttle;

  JoinController(SignInLinks links, Joining joining, LiveModel model, Throttle throttle) {
    this.links = links;
    this.joining = joining;
    this.model = model;
    this.throttle = throttle;
  }

  /**
   * What shows who somebody is: the secret of a link, or a name with a first password.
   *
   * @param name key or address, beside a first password
   */
  record JoinProof(
      @Nullable @Size(max = 200) String token,
      @Nullable @Size(max = 200) String name,
      @Nullable @Size(max = 100) String firstPassword) {}

  /**
   * Who can choose a password.
   *
   * @param key with which they sign in, or with their address
   * @param first whether it is their first password
   * @param until when the link or first password is over
   */
  record JoinView(String key, String name, String accountName, boolean first, Instant until) {}

  /** Who somebody is by a link or a first password; nothing is used up. */
  @PostMapping("/look")
  JoinView look(@Valid @RequestBody JoinProof proof, HttpServletRequest request) {
    Link link = require(proof, request);
    Principal who = joining.require(link);
    return new JoinView(
        who.key().value(),
        who.about().nameOr(who.key()),
        model
            .engine()
            .catalogue()
            .find(Kind.ACCOUNTS, who.account().value())
            .getFirst()
            .about()
            .nameOr(who.account()),
        link.purpose() != SignInLinks.Purpose.RESET,
        link.ends());
  }

  /** A password, and what shows that one may choose it. */
  record ChosenPassword(
      @NotNull @Valid JoinProof proof, @NotBlank @Size(max = 500) String password) {}

  /** Who joined: they can sign in with this key and their password. */
  record Joined(String key) {}

  /** Sets the password; who was invited is active from then on. Works once. */
  @PostMapping
  Joined join(@Valid @RequestBody ChosenPassword chosen, HttpServletRequest request) {
    return new Joined(joining.join(require(chosen.proof(), request), chosen.password()).value());
  }

  /** Whose password is forgotten: a key or an address. */
  record Forgotten(@NotBlank @Size(max = 200) String name) {}

  /** Sends a link for a new password, if there is such a person; the answer is always the same. */
  @PostMapping("/forgotten")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void forgotten(@Valid @RequestBody Forgotten forgotten, HttpServletRequest request) {
    throttle.link(forgotten.name(), request.getRemoteAddr());
    joining.forgotten(forgotten.name());
  }

  private Link require(JoinProof proof, HttpServletRequest request) {
    String token = proof.token();
    String name = proof.name();
    String firstPassword = proof.firstPassword();
    Link link;
    if (token != null && !token.isBlank()) {
      link = links.find(token).orElse(null);
    } else if (name != null && firstPassword != null && !name.isBlank()) {
      PrincipalKey who = joining.named(name);
      throttle.attempt(who.value(), request.getRemoteAddr());
      link = links.find(who, firstPassword).orElse(null);
      if (link != null) {
        throttle.succeeded(who.value(), request.getRemoteAddr());
      }
    } else {
      throw Problem.badRequest(
          "Something is missing", "Open the link of your mail, or type your name and password.");
    }
    if (link == null) {
      throttle.wrongToken(request.getRemoteAddr());
      throw Joining.over();
    }
    return link;
  }
}
