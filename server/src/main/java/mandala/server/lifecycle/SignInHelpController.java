package mandala.server.lifecycle;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.util.List;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What an administrator does about the sign-in of one person, or of many. */
@RestController
@RequestMapping("/api/people")
class SignInHelpController {

  /** The most people of one call. */
  private static final int MOST = 1_000;

  private final SignInHelp help;
  private final RequestContexts contexts;

  SignInHelpController(SignInHelp help, RequestContexts contexts) {
    this.help = help;
    this.contexts = contexts;
  }

  /** Where a link went. */
  record LinkSent(String address) {}

  /** Sends an invitation again, or a link for a new password. */
  @PostMapping("/{key}/invitation")
  LinkSent send(@PathVariable String key) {
    return new LinkSent(help.sendLink(key, contexts.context()));
  }

  /** A first password; it is shown this once. */
  record FirstPasswordView(String password) {}

  /** Makes a first password, which its person changes when they first use it. */
  @PostMapping("/{key}/first-password")
  FirstPasswordView firstPassword(@PathVariable String key) {
    return new FirstPasswordView(help.firstPassword(key, contexts.context()));
  }

  /** How many sessions ended. */
  record SignedOutView(int sessions) {}

  /** Signs somebody out everywhere. */
  @PostMapping("/{key}/sign-out")
  SignedOutView signOut(@PathVariable String key) {
    return new SignedOutView(help.signOut(key, contexts.context()));
  }

  /** Keys of people. */
  record SeveralPeople(
      @NotEmpty @Size(max = MOST) List<@NotBlank @Size(max = 200) String> people) {}

  /** Sends each of several people an invitation again, or a link for a new password. */
  @Costly
  @PostMapping("/invitations")
  SignInHelp.DoneForMany sendAll(@Valid @RequestBody SeveralPeople them) {
    RequestContext context = contexts.context();
    return SignInHelp.each(them.people(), it -> help.sendLink(it, context));
  }

  /** Signs several people out everywhere. */
  @Costly
  @PostMapping("/sign-outs")
  SignInHelp.DoneForMany signOutAll(@Valid @RequestBody SeveralPeople them) {
    RequestContext context = contexts.context();
    return SignInHelp.each(them.people(), it -> help.signOut(it, context));
  }
}
