package mandala.server.lifecycle;

import mandala.core.model.Kind;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;

/** In which accounts somebody may manage people. */
final class ManagedAccounts {

  private ManagedAccounts() {}

  /** {@return whether the viewer may manage people in an account} */
  static boolean mayManage(String account, RequestContext context) {
    AccountKey key = new AccountKey(account);
    return context.state().engine().catalogue().accounts().containsKey(key)
        && context.readPolicy().may(Supplied.PEOPLE_MANAGE, ResourceKey.of(key));
  }

  /**
   * Holds the viewer to it.
   *
   * @throws Problem if there is no such account to their eyes, or they may not
   */
  static void requireManage(String account, RequestContext context) {
    if (!mayManage(context.known(Kind.ACCOUNTS, account), context)) {
      throw Problem.forbidden(
          context.needs(Supplied.PEOPLE_MANAGE, ResourceKey.of(new AccountKey(account)))
              + " Ask a directory administrator of the account.");
    }
  }
}
