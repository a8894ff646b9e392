package mandala.server.mail;

import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Mail to people of the accounts whose settings the viewer manages. */
@RestController
@RequestMapping("/api/settings/mail")
class MailController {

  private static final int MOST = 200;

  /** Maximum number of mails, to whomever, that are looked through for these. */
  private static final int LOOKED_THROUGH = 20_000;

  private static final int BATCH = 1_000;

  private final Mails mails;
  private final RequestContexts contexts;

  MailController(Mails mails, RequestContexts contexts) {
    this.mails = mails;
    this.contexts = contexts;
  }

  /**
   * The newest mails.
   *
   * @param sent whether there is a mail server; else all stay in the outbox
   * @param mails the newest first, at most 200
   */
  record Outbox(boolean sent, List<Mail> mails) {}

  /** The newest mails to people whom the viewer manages. */
  @GetMapping
  Outbox outbox() {
    RequestContext context = contexts.context();
    if (!context.readPolicy().managesSettings()) {
      throw Problem.forbidden(
          "You need “Manage settings” on an account to read its mail. Ask its administrator.");
    }
    Set<AccountKey> readable = context.readPolicy().readableAccounts();
    return new Outbox(
        mails.isServerSet(),
        newestManaged(context).stream()
            .map(
                it -> isTextReadable(it, readable, context) ? it.withoutSecret() : it.withoutBody())
            .toList());
  }

  /** Goes through mail, the newest first, until there are enough or it has seen a great many. */
  private List<Mail> newestManaged(RequestContext context) {
    List<Mail> managed = new ArrayList<>();
    List<Mail> some = mails.newest(BATCH);
    int looked = 0;
    while (!some.isEmpty() && managed.size() < MOST && looked < LOOKED_THROUGH) {
      looked += some.size();
      some.stream()
          .filter(it -> isManaged(it, context))
          .limit(MOST - managed.size())
          .forEach(managed::add);
      some = mails.newestAfter(some.getLast(), BATCH);
    }
    return managed;
  }

  /**
   * A mail names only what its receiver may read: whoever reads every account that they read may
   * read it.
   */
  private boolean isTextReadable(Mail mail, Set<AccountKey> readable, RequestContext context) {
    PrincipalKey receiver = new PrincipalKey(mail.person());
    return receiver.equals(context.readPolicy().viewer())
        || readable.containsAll(
            contexts
                .of(new Session(receiver, context.readPolicy().now(), true, null))
                .readPolicy()
                .readableAccounts());
  }

  private static boolean isManaged(Mail mail, RequestContext context) {
    Principal whom = context.readPolicy().known(new PrincipalKey(mail.person()));
    return whom != null
        && context.readPolicy().mayRead(whom)
        && context.readPolicy().may(Supplied.SETTINGS_MANAGE, ResourceKey.of(whom.account()));
  }
}
