package mandala.server.authorization;

import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.BiPredicate;
import mandala.core.authority.Authority;
import mandala.core.engine.Engine;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.core.rule.Guests;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;

/**
 * What one viewer may read and ask, decided by the engine on the model's own rights (section 11).
 * Made for one call: decisions are remembered. Not thread-safe.
 */
public final class ReadPolicy {

  private final Catalogue catalogue;
  private final Session session;
  private final @Nullable Set<AccountKey> within;
  private final BiPredicate<PermissionKey, ResourceKey> rights;
  private final @Nullable UsedRights used;
  private @Nullable Boolean readsAnybody;
  private final Map<PermissionKey, Map<ResourceKey, Boolean>> decided = new HashMap<>();

  /** What may be told of a principal's access. */
  public sealed interface Cut {

    /** Nothing. */
    record Nothing() implements Cut {}

    /** All of it. */
    record Whole() implements Cut {}

    /** What lies in these accounts: of a guest, those that it was let into. */
    record Within(Set<AccountKey> accounts) implements Cut {
      /** Copies its accounts. */
      public Within {
        accounts = Set.copyOf(accounts);
      }
    }
  }

  /** Looks with the rights of a session. */
  public ReadPolicy(Engine engine, Session session) {
    this(engine, session, null, null);
  }

  /**
   * Looks with the rights of a session, cut to some accounts: of whoever calls with a token, which
   * has rights only, and not its principal's look at itself.
   *
   * @param within the accounts, or null for all
   * @param used told of each right that is asked for and had, or null
   */
  ReadPolicy(
      Engine engine, Session session, @Nullable Set<AccountKey> within, @Nullable UsedRights used) {
    this(
        engine,
        session,
        within,
        used,
        (permission, place) ->
            (within == null || isIn(within, place, engine.catalogue()))
                && engine.decide(session.asks(permission, place)).allowed());
  }

  private ReadPolicy(
      Engine engine,
      Session session,
      @Nullable Set<AccountKey> within,
      @Nullable UsedRights used,
      BiPredicate<PermissionKey, ResourceKey> rights) {
    this.used = used;
    this.rights = rights;
    this.catalogue = engine.catalogue();
    this.session = session;
    this.within = within == null ? null : Set.copyOf(within);
  }

  /** {@return the same look at another model} */
  ReadPolicy in(Engine other) {
    return new ReadPolicy(other, session, within, used);
  }

  /** {@return the look of whoever may read and ask all in one account, and nothing elsewhere} */
  static ReadPolicy ofAccount(Engine engine, AccountKey account, Instant at) {
    return new ReadPolicy(
        engine,
        new Session(PrincipalKey.ANONYMOUS, at, false, null),
        null,
        null,
        (_, place) -> isIn(Set.of(account), place, engine.catalogue()));
  }

  /** {@return whether this is a look of a token}, which is cut to some accounts */
  public boolean isCut() {
    return within != null;
  }

  /** {@return whether somebody looks at themselves} (section 11) */
  public boolean isViewer(@Nullable PrincipalKey key) {
    return within == null && session.principal().equals(key);
  }

  /** {@return who looks} */
  public PrincipalKey viewer() {
    return session.principal();
  }

  /** {@return whether the viewer may do this there} */
  public boolean may(PermissionKey permission, ResourceKey resource) {
    return decided
        .computeIfAbsent(permission, _ -> new HashMap<>())
        .computeIfAbsent(resource, it -> rights.test(permission, it) && isNoted(permission, it));
  }

  private boolean isNoted(PermissionKey permission, ResourceKey resource) {
    if (used != null) {
      used.asked(session.principal(), permission, resource);
    }
    return true;
  }

  private static boolean isIn(Set<AccountKey> accounts, ResourceKey place, Catalogue catalogue) {
    AccountKey account = catalogue.has(place) ? catalogue.accountOf(place) : null;
    return account != null && accounts.contains(account);
  }

  /**
   * {@return whether the viewer may see a principal in the directory}, judged by where it is in the
   * model in force; one that only a draft has, by its nearest place that there is
   */
  public boolean mayRead(Principal principal) {
    Principal now = catalogue.principals().get(principal.key());
    return isViewer(principal.key())
        || may(Supplied.DIRECTORY_READ, (now == null ? principal : now).place());
  }

  /** {@return whether the viewer may read what an account holds} */
  public boolean mayRead(AccountKey account) {
    return may(Supplied.DIRECTORY_READ, ResourceKey.of(account));
  }

  /**
   * {@return whether the viewer may read a thing} (section 11), judged by what it is in the model
   * in force: neither a draft nor the past decides who may read it
   *
   * @param in the catalogue that it is of; it decides only where the model in force has no such
   *     thing
   */
  public boolean mayRead(Thing thing, Catalogue in) {
    Key key = thing.key();
    Thing now = key == null ? null : Visibility.find(catalogue, Kind.of(thing), key.value());
    return now == null ? reads(thing, in) : reads(now, catalogue);
  }

  private boolean reads(Thing thing, Catalogue in) {
    return switch (thing) {
      case Principal it ->
          isViewer(it.key()) || may(Supplied.DIRECTORY_READ, standing(it.place(), in));
      case Account it -> may(Supplied.DIRECTORY_READ, standing(ResourceKey.of(it.key()), in));
      case Unit it -> may(Supplied.DIRECTORY_READ, standing(ResourceKey.of(it.key()), in));
      case Group it -> may(Supplied.DIRECTORY_READ, standing(ResourceKey.of(it.key()), in));
      case Guest it -> mayRead(it.account()) || mayRead(it.principal(), in);
      case Activation it -> mayRead(it.principal(), in);
      case Delegation it -> mayRead(it.principal(), in) || mayRead(it.delegate(), in);
      case Resource it -> mayRead(it.account());
      case ResourceCollection it -> mayRead(it.account());
      case Assignment it ->
          Authority.anchorsOf(it, in).stream()
              .map(anchor -> accountOf(anchor, in))
              .allMatch(account -> account != null && mayRead(account));
      case Bridge it -> {
        Group source = in.groups().get(it.group());
        yield mayRead(it.account()) || (source != null && mayRead(source.account()));
      }
      case Pattern it -> mayReadDefinition(it.account());
      case Permission it -> mayReadDefinition(it.account());
      case PermissionSet it -> mayReadDefinition(it.account());
      case Role it -> mayReadDefinition(it.account());
      case ResourceType it -> mayReadDefinition(it.account());
      case Exclusion it -> mayReadDefinition(it.account());
      case Expectation it -> mayReadDefinition(it.account());
    };
  }

  /** What a draft creates stands for its nearest ancestor that there is. */
  private ResourceKey standing(ResourceKey resource, Catalogue in) {
    ResourceKey at = resource;
    while (!catalogue.has(at) && in.has(at)) {
      ResourceKey parent = in.parentOf(at);
      if (parent == null) {
        return at;
      }
      at = parent;
    }
    return at;
  }

  /** The account of a place in the model in force; of one that it has not, of the nearest above. */
  private @Nullable AccountKey accountOf(ResourceKey place, Catalogue in) {
    ResourceKey at = standing(place, in);
    return catalogue.has(at) ? catalogue.accountOf(at) : null;
  }

  private boolean mayRead(PrincipalKey key, Catalogue in) {
    Principal principal = in.principals().get(key);
    return principal != null && mayRead(principal);
  }

  /** Shared definitions are read by all who may read anything. */
  private boolean mayReadDefinition(@Nullable AccountKey account) {
    return account == null ? mayReadAnybody() : mayRead(account);
  }

  /** {@return the session with whose rights is looked} */
  public Session session() {
    return session;
  }

  /** {@return the accounts of which the viewer may read what they hold} */
  public Set<AccountKey> readableAccounts() {
    Set<AccountKey> readable = new LinkedHashSet<>();
    for (AccountKey account : catalogue.accounts().keySet()) {
      if (mayRead(account)) {
        readable.add(account);
      }
    }
    return readable;
  }

  /** {@return whether the viewer may read anything of the directory but itself} */
  public boolean mayReadAnybody() {
    Boolean known = readsAnybody;
    if (known == null) {
      known = readsAnybody();
      readsAnybody = known;
    }
    return known;
  }

  private boolean readsAnybody() {
    if (!readableAccounts().isEmpty()) {
      return true;
    }
    return catalogue.units().keySet().stream()
        .anyMatch(unit -> may(Supplied.DIRECTORY_READ, ResourceKey.of(unit)));
  }

  /** {@return what the viewer may be told of a principal's access} */
  public Cut cutFor(Principal principal) {
    if (isViewer(principal.key())
        || may(Supplied.ACCESS_ASK, principal.place())
        || may(Supplied.ACCESS_ASK, ResourceKey.of(principal.account()))) {
      return within == null ? new Cut.Whole() : new Cut.Within(within);
    }
    Set<AccountKey> accounts = new HashSet<>();
    int number = catalogue.principals().number(principal.key());
    for (Guest guest : number < 0 ? List.<Guest>of() : catalogue.links().guests(number)) {
      if (guest.window().holdsAt(session.at())
          && may(Supplied.ACCESS_ASK, ResourceKey.of(guest.account()))) {
        accounts.addAll(covered(guest));
      }
    }
    return accounts.isEmpty() ? new Cut.Nothing() : new Cut.Within(accounts);
  }

  /** The accounts that a guest membership covers and the viewer may ask about. */
  private Set<AccountKey> covered(Guest guest) {
    Set<AccountKey> covered = new HashSet<>();
    for (AccountKey account : catalogue.accounts().keySet()) {
      if (Guests.covers(guest, account, catalogue)
          && may(Supplied.ACCESS_ASK, ResourceKey.of(account))) {
        covered.add(account);
      }
    }
    return covered;
  }

  /** {@return a principal of the model in force}, null where there is none; readable or not */
  public @Nullable Principal known(PrincipalKey key) {
    return catalogue.principals().get(key);
  }

  /** {@return whether one has delegated to another, in force now} */
  boolean hasDelegated(PrincipalKey whom, PrincipalKey to) {
    int number = catalogue.principals().number(whom);
    return number >= 0
        && catalogue.links().delegations(number).stream()
            .anyMatch(it -> it.delegate().equals(to) && it.window().holdsAt(now()));
  }

  /** {@return whether somebody's whole access may be told} */
  public boolean maySeeAllOf(PrincipalKey key) {
    Principal it = catalogue.principals().get(key);
    return key.equals(PrincipalKey.ANONYMOUS)
        ? mayReadAnybody()
        : it != null && cutFor(it) instanceof Cut.Whole;
  }

  /**
   * {@return whether a finding about somebody may be told}: to those who may be told of all of
   * their access; by a token, of those at home in its accounts, where it lies in these
   *
   * @param where the place of the finding, null where it is about no place
   */
  public boolean mayBeTold(PrincipalKey who, @Nullable ResourceKey where) {
    Principal it = catalogue.principals().get(who);
    return maySeeAllOf(who)
        || (within != null
            && it != null
            && cutFor(it) instanceof Cut.Within(var accounts)
            && isIn(accounts, it.place(), catalogue)
            && (where == null || isIn(accounts, where, catalogue)));
  }

  /** {@return whether the viewer may ask who can do something on a place} */
  public boolean mayAskWhoCan(ResourceKey place) {
    AccountKey account = catalogue.has(place) ? catalogue.accountOf(place) : null;
    return account != null
        && (may(Supplied.ACCESS_ASK, place) || may(Supplied.ACCESS_ASK, ResourceKey.of(account)));
  }

  /** {@return whether the viewer may read every account, and so of everything} */
  public boolean readsAll() {
    return readableAccounts().size() == catalogue.accounts().size();
  }

  /** {@return whether the viewer manages the settings of an account, whichever} */
  public boolean managesSettings() {
    return catalogue.accounts().keySet().stream()
        .anyMatch(it -> may(Supplied.SETTINGS_MANAGE, ResourceKey.of(it)));
  }

  /**
   * {@return a digest of where the viewer may read, ask and read the trail}: while it is the same,
   * an earlier answer can be shown again
   */
  public String extent() {
    StringBuilder extent = new StringBuilder(session.principal().value());
    for (PermissionKey permission :
        List.of(Supplied.DIRECTORY_READ, Supplied.ACCESS_ASK, Supplied.TRAIL_READ)) {
      extent.append('\n').append(permission);
      catalogue.accounts().keySet().stream()
          .map(ResourceKey::of)
          .filter(it -> rights.test(permission, it))
          .forEach(it -> extent.append(' ').append(it));
      catalogue.units().keySet().stream()
          .map(ResourceKey::of)
          .filter(it -> rights.test(permission, it))
          .forEach(it -> extent.append(' ').append(it));
    }
    return DigestUtils.sha256Hex(extent.toString());
  }

  /** {@return the instant at which the viewer's rights are judged} */
  public Instant now() {
    return session.at();
  }
}
