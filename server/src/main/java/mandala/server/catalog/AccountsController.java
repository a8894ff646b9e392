package mandala.server.catalog;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Guest;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/** The accounts that one works in. */
@RestController
class AccountsController {

  private final RequestContexts contexts;

  AccountsController(RequestContexts contexts) {
    this.contexts = contexts;
  }

  /**
   * The accounts that the viewer has to do with, each after its parent.
   *
   * @param people whether the viewer may look at anybody but itself
   * @param transfer whether the viewer may export the whole model
   */
  record Accounts(List<AccountView> accounts, boolean people, boolean transfer) {}

  /**
   * An account.
   *
   * @param depth how many accounts are above it
   * @param readable whether the viewer may read what it holds; else it is only where one is at home
   *     or a guest
   * @param asks whether the viewer may ask about the access of all at home in it
   * @param may the supplied permissions of class administer that the viewer has on it, and those
   *     over people that they have in any of its units: what they can create there
   */
  record AccountView(
      String key,
      String name,
      @Nullable String parent,
      int depth,
      boolean sealed,
      boolean suspended,
      boolean readable,
      boolean asks,
      List<String> may) {}

  @GetMapping("/api/accounts")
  Accounts accounts() {
    RequestContext context = contexts.context();
    Catalogue catalogue = context.state().engine().catalogue();
    Set<AccountKey> readable = context.readPolicy().readableAccounts();
    Set<AccountKey> shown = new LinkedHashSet<>(readable);
    Principal viewer = catalogue.principals().get(context.readPolicy().viewer());
    if (viewer != null && context.readPolicy().isViewer(viewer.key())) {
      shown.add(viewer.account());
      int number = catalogue.principals().require(viewer.key());
      for (Guest guest : catalogue.links().guests(number)) {
        shown.add(guest.account());
      }
    }
    List<AccountView> views = new ArrayList<>();
    for (Account account : catalogue.accounts().values()) {
      if (account.parent() == null) {
        add(account, 0, context, shown, readable, views);
      }
    }
    return new Accounts(
        views,
        context.readPolicy().mayReadAnybody(),
        readable.size() == catalogue.accounts().size());
  }

  private static void add(
      Account account,
      int depth,
      RequestContext context,
      Set<AccountKey> shown,
      Set<AccountKey> readable,
      List<AccountView> views) {
    Catalogue catalogue = context.state().engine().catalogue();
    boolean told = shown.contains(account.key());
    if (told) {
      views.add(
          new AccountView(
              account.key().value(),
              account.about().nameOr(account.key()),
              account.parent() == null ? null : account.parent().value(),
              depth,
              account.sealed(),
              account.suspended(),
              readable.contains(account.key()),
              context.readPolicy().may(Supplied.ACCESS_ASK, ResourceKey.of(account.key())),
              may(account, context)));
    }
    for (Account below : catalogue.accounts().values()) {
      if (account.key().equals(below.parent())) {
        add(below, told ? depth + 1 : depth, context, shown, readable, views);
      }
    }
  }

  private static List<String> may(Account account, RequestContext context) {
    return Supplied.permissions(List.of()).stream()
        .filter(it -> it.accessClass() == Permission.AccessClass.ADMINISTER)
        .map(Permission::key)
        .filter(it ->
            context.readPolicy().may(it, ResourceKey.of(account.key()))
                || (it.equals(Supplied.PEOPLE_MANAGE) && inAnyUnit(account, context)))
        .map(PermissionKey::value)
        .toList();
  }

  private static boolean inAnyUnit(Account account, RequestContext context) {
    return context.state().engine().catalogue().units().values().stream()
        .filter(it -> it.account().equals(account.key()))
        .anyMatch(it -> context.readPolicy().may(Supplied.PEOPLE_MANAGE, ResourceKey.of(it.key())));
  }
}
