package mandala.server.reconcile;

import java.util.List;
import java.util.Optional;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Supplied;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.document.ChangeText;
import mandala.document.HeldReader;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Judges who may see and change connected systems: whoever may assign access in a system's account
 * changes it, whoever may ask about access there sees it.
 */
@Service
class SystemDesk {

  private final SystemStore store;
  private final Trail trail;
  private final AuditContext auditContext;

  SystemDesk(SystemStore store, Trail trail, AuditContext auditContext) {
    this.store = store;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  // ---- who may ----------------------------------------------------------------------------------

  private static boolean manages(AccountKey account, ReadPolicy policy) {
    return policy.may(Supplied.ACCESS_ASSIGN, ResourceKey.of(account));
  }

  private static boolean sees(ConnectedSystem it, ReadPolicy policy) {
    return manages(it.account(), policy)
        || policy.may(Supplied.ACCESS_ASK, ResourceKey.of(it.account()));
  }

  /**
   * {@return a system that somebody may see}
   *
   * @throws Problem if there is none to their eyes
   */
  ConnectedSystem require(String key, RequestContext context) {
    return store
        .find(key)
        .filter(it -> sees(it, context.readPolicy()))
        .orElseThrow(
            () -> Problem.notFound("There is no system '" + key + "'. Choose one from the list."));
  }

  /**
   * {@return a system that somebody may change}
   *
   * @throws Problem if there is none to their eyes, or they may only see it
   */
  ConnectedSystem requireManaged(String key, RequestContext context) {
    ConnectedSystem it = require(key, context);
    if (!manages(it.account(), context.readPolicy())) {
      throw Problem.forbidden(context.needs(Supplied.ACCESS_ASSIGN, ResourceKey.of(it.account())));
    }
    return it;
  }

  /**
   * {@return the same, and has what changes it wait until the transaction ends}
   *
   * @throws Problem as before
   */
  ConnectedSystem lockManaged(String key, RequestContext context) {
    store.lock(key);
    return requireManaged(key, context);
  }

  // ---- systems ----------------------------------------------------------------------------------

  /** {@return the systems that a viewer may see} */
  SystemController.SystemList list(RequestContext context) {
    ReadPolicy policy = context.readPolicy();
    Catalogue catalogue = context.state().engine().catalogue();
    List<String> accounts =
        catalogue.accounts().keySet().stream()
            .filter(it -> manages(it, policy))
            .map(Key::value)
            .sorted()
            .toList();
    boolean asks =
        catalogue.accounts().keySet().stream()
            .anyMatch(it -> policy.may(Supplied.ACCESS_ASK, ResourceKey.of(it)));
    if (accounts.isEmpty() && !asks) {
      throw Problem.forbidden(
          "You need “Ask about access” on an account to see what its systems hold. Ask its"
              + " administrator.");
    }
    return new SystemController.SystemList(
        accounts,
        store.all().stream().filter(it -> sees(it, policy)).map(it -> view(it, context)).toList());
  }

  SystemController.SystemView view(ConnectedSystem it, RequestContext context) {
    boolean manages = manages(it.account(), context.readPolicy());
    ChangeText text = context.text();
    return new SystemController.SystemView(
        it.key(),
        it.name(),
        it.account().value(),
        text.name(Kind.ACCOUNTS, it.account().value()),
        it.columns().identity(),
        it.columns().entitlement(),
        it.columns().place(),
        it.terms(),
        store.terms(it.key()).stream()
            .map(version ->
                new SystemController.TermsView(
                    version.version(),
                    version.madeAt(),
                    text.name(Kind.PRINCIPALS, version.madeBy()),
                    version.triedAt()))
            .toList(),
        store.comparedAt(it.key()),
        manages);
  }

  /**
   * Adds a system, or changes one.
   *
   * @throws Problem if the viewer may not
   */
  @Transactional
  public SystemController.SystemList keep(
      String key, SystemController.SystemOrder order, RequestContext context) {
    AccountKey account = new AccountKey(order.account());
    ReadPolicy policy = context.readPolicy();
    store.lock(key);
    Optional<ConnectedSystem> was = store.find(key);
    if (!manages(account, policy) || was.filter(it -> !manages(it.account(), policy)).isPresent()) {
      throw Problem.forbidden(
          "You need “Assign access” on '"
              + order.account()
              + "', and there must be no system '"
              + key
              + "' of another account. Ask its administrator, or choose another key.");
    }
    String place = order.place() == null || order.place().isBlank() ? null : order.place().strip();
    String name = order.name().strip();
    store.keep(
        new ConnectedSystem(
            key,
            name,
            account,
            new HeldReader.Columns(order.identity().strip(), order.entitlement().strip(), place),
            null));
    String said = (was.isEmpty() ? "Added" : "Changed") + " the connected system “" + name + "”";
    note(account, said);
    was.map(ConnectedSystem::account)
        .filter(it -> !it.equals(account))
        .ifPresent(it -> note(it, said));
    return list(context);
  }

  /** Removes a system with its terms and comparisons. */
  @Transactional
  public SystemController.SystemList remove(String key, RequestContext context) {
    ConnectedSystem it = lockManaged(key, context);
    store.delete(key);
    note(it.account(), "Removed the connected system “" + it.name() + "”");
    return list(context);
  }

  void note(AccountKey account, String said) {
    trail.write(List.of(auditContext.by(AuditEvent.Act.CHANGED, List.of(account.value()), said)));
  }

  /** {@return the account of somebody}, that of the system where they are unknown */
  static AccountKey accountOf(
      ConnectedSystem system, @Nullable PrincipalKey who, Catalogue catalogue) {
    var principal = who == null ? null : catalogue.principals().get(who);
    return principal == null ? system.account() : principal.account();
  }
}
