package mandala.server.reconcile;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Clock;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;
import java.util.TreeSet;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Supplied;
import mandala.core.model.check.Fault;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.HeldLine;
import mandala.core.reconcile.Identities;
import mandala.core.reconcile.Terms;
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
 * changes it, whoever may ask about access there sees it. Terms count only after they were tried on
 * a sample.
 */
@Service
class SystemDesk {

  /** Maximum number of faults that are told. */
  static final int MOST_FAULTS = 100;

  /** Maximum number of lines of a sample that are told. */
  private static final int MOST_TRIED = 50;

  private final SystemStore store;
  private final Trail trail;
  private final AuditContext auditContext;
  private final Clock clock;

  SystemDesk(SystemStore store, Trail trail, AuditContext auditContext, Clock clock) {
    this.store = store;
    this.trail = trail;
    this.auditContext = auditContext;
    this.clock = clock;
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
    List<SystemStore.TermsVersion> versions = store.terms(it.key());
    List<SystemStore.Comparison> comparisons = store.comparisons(it.key());
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
        versions.stream()
            .map(version ->
                new SystemController.TermsView(
                    version.version(),
                    version.madeAt(),
                    text.name(Kind.PRINCIPALS, version.madeBy()),
                    version.triedAt()))
            .toList(),
        comparisons.isEmpty() ? null : comparisons.getFirst().at(),
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
    note(account, (was.isEmpty() ? "Added" : "Changed") + " the connected system “" + name + "”");
    return list(context);
  }

  /** Removes a system with its terms and comparisons. */
  @Transactional
  public SystemController.SystemList remove(String key, RequestContext context) {
    ConnectedSystem it = requireManaged(key, context);
    store.lock(key);
    store.delete(key);
    note(it.account(), "Removed the connected system “" + it.name() + "”");
    return list(context);
  }

  // ---- terms ------------------------------------------------------------------------------------

  /**
   * Keeps a version of a system's terms; it does not count yet.
   *
   * @throws Problem if it has faults, or names what the viewer may not read
   */
  @Transactional
  public SystemController.SystemView addTerms(String key, byte[] table, RequestContext context) {
    ConnectedSystem system = requireManaged(key, context);
    Catalogue catalogue = context.state().engine().catalogue();
    HeldReader.Read read;
    try {
      read = HeldReader.terms(new ByteArrayInputStream(table), catalogue, context.naming());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    requireNone("terms", read.faults());
    if (read.terms().entitlements().isEmpty() || read.terms().places().isEmpty()) {
      throw Problem.badRequest(
          "The terms compare nothing",
          "They need at least one entitlement and one place; for a system without places, a place"
              + " whose 'theirs' is empty. Add these lines and send it again.");
    }
    store.lock(key);
    int version =
        store.addTerms(
            key,
            new String(table, java.nio.charset.StandardCharsets.UTF_8),
            context.readPolicy().viewer().value(),
            clock.instant());
    note(system.account(), "Added version " + version + " of the terms of “" + system.name() + "”");
    return view(system, context);
  }

  /**
   * {@return a version as it was sent}
   *
   * @throws Problem if it names what the viewer may not read
   */
  String terms(String key, int version, RequestContext context) {
    ConnectedSystem system = requireManaged(key, context);
    SystemStore.TermsVersion it = require(system, version);
    Catalogue catalogue = context.state().engine().catalogue();
    try {
      HeldReader.Read all = HeldReader.terms(stream(it), catalogue);
      HeldReader.Read told = HeldReader.terms(stream(it), catalogue, context.naming());
      if (!told.faults().equals(all.faults())) {
        throw Problem.forbidden(
            "Version "
                + version
                + " names people, permissions or places that you may not read. Ask whoever made"
                + " it.");
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return it.content();
  }

  /** {@return what a version makes of a sample}; from then on it was tried */
  @Transactional
  public SystemController.TermsTrial tryTerms(
      String key, int version, byte[] sample, RequestContext context) {
    ConnectedSystem system = requireManaged(key, context);
    SystemStore.TermsVersion it = require(system, version);
    Catalogue catalogue = context.state().engine().catalogue();
    Terms terms = usable(it, catalogue);
    Identities identities = new Identities(catalogue, terms);
    ChangeText text = context.text();
    List<HeldLine> lines = read(sample, system);
    if (lines.isEmpty()) {
      throw Problem.badRequest(
          "The sample has no line", "Send the first lines of what the system holds.");
    }
    Map<String, Integer> untranslated = new TreeMap<>();
    TreeSet<String> strangers = new TreeSet<>();
    int translated = 0;
    List<SystemController.TriedLine> tried = new ArrayList<>();
    for (HeldLine line : lines) {
      PrincipalKey who = identities.of(line.identity());
      boolean known = who != null && context.naming().tells(Kind.PRINCIPALS, who.value());
      List<PermissionKey> permissions =
          terms.entitlements().getOrDefault(line.entitlement(), List.of());
      Terms.Area area = terms.places().get(line.place());
      if (!known) {
        strangers.add(line.identity());
      }
      if (permissions.isEmpty()) {
        untranslated.merge("entitlement " + line.entitlement(), 1, Integer::sum);
      }
      if (area == null) {
        untranslated.merge("place " + line.place(), 1, Integer::sum);
      }
      translated += known && !permissions.isEmpty() && area != null ? 1 : 0;
      if (tried.size() < MOST_TRIED) {
        tried.add(
            new SystemController.TriedLine(
                line.identity(),
                known && who != null ? text.name(Kind.PRINCIPALS, who.value()) : null,
                line.entitlement(),
                permissions.stream()
                    .map(permission -> text.name(Kind.PERMISSIONS, permission.value()))
                    .toList(),
                line.place(),
                area == null ? null : text.place(area.top()),
                area != null && area.below()));
      }
    }
    store.tried(key, version, clock.instant());
    return new SystemController.TermsTrial(
        lines.size(), translated, untranslated, List.copyOf(strangers), tried);
  }

  /**
   * Has a version of the terms count from the next comparison on.
   *
   * @throws Problem if it was not tried
   */
  @Transactional
  public SystemController.SystemView useTerms(String key, int version, RequestContext context) {
    ConnectedSystem system = requireManaged(key, context);
    SystemStore.TermsVersion it = require(system, version);
    if (it.triedAt() == null) {
      throw Problem.conflict(
          "Version " + version + " was not tried yet",
          "Try it on a sample of what the system holds, and see whether it means what you think.");
    }
    usable(it, context.state().engine().catalogue());
    store.lock(key);
    store.use(key, version);
    note(
        system.account(),
        "Put version " + version + " of the terms of “" + system.name() + "” in force");
    return view(require(key, context), context);
  }

  private SystemStore.TermsVersion require(ConnectedSystem system, int version) {
    return store.terms(system.key()).stream()
        .filter(it -> it.version() == version)
        .findFirst()
        .orElseThrow(() ->
            Problem.notFound(
                "“"
                    + system.name()
                    + "” has no version "
                    + version
                    + " of its terms. Choose one"
                    + " from the list."));
  }

  /**
   * {@return the terms that count}
   *
   * @throws Problem if none do
   */
  SystemStore.TermsVersion requireTermsInForce(ConnectedSystem system) {
    Integer version = system.terms();
    if (version == null) {
      throw Problem.conflict(
          "“" + system.name() + "” has no terms in force",
          "Add what its terms mean, try them on a sample, and put them in force.");
    }
    return require(system, version);
  }

  /**
   * {@return what terms mean in the model in force}
   *
   * @throws Problem if it lacks something that they name
   */
  static Terms usable(SystemStore.TermsVersion version, Catalogue catalogue) {
    try {
      HeldReader.Read read = HeldReader.terms(stream(version), catalogue);
      requireNone("terms", read.faults());
      return read.terms();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static ByteArrayInputStream stream(SystemStore.TermsVersion version) {
    return new ByteArrayInputStream(SystemStore.bytes(version.content()));
  }

  /**
   * {@return what a table says}
   *
   * @throws Problem if it has faults
   */
  static List<HeldLine> read(byte[] table, ConnectedSystem system) {
    List<HeldLine> lines = new ArrayList<>();
    try {
      requireNone(
          "table",
          HeldReader.read(
              new ByteArrayInputStream(table), system.columns(), MOST_FAULTS, lines::add));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return lines;
  }

  private static void requireNone(String what, List<Fault> faults) {
    if (!faults.isEmpty()) {
      int many = faults.size();
      throw Problem.faulty(
          what.equals("terms")
              ? "The terms have " + many + (many == 1 ? " fault" : " faults")
              : "The table has " + many + (many == 1 ? " fault" : " faults"),
          faults.stream().limit(MOST_FAULTS).toList());
    }
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
