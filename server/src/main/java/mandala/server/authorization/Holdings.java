package mandala.server.authorization;

import java.time.Instant;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import mandala.document.Naming;
import org.jspecify.annotations.Nullable;

/**
 * What a principal holds in the model in force: of these things an answer about it may tell
 * (section 11, "everyone may read and ask about themselves"). Of places, those on which it is
 * allowed anything. Found when it is first asked for; not thread-safe.
 */
final class Holdings {

  private final Engine engine;
  private final Principal who;
  private final Instant at;
  private final @Nullable Set<AccountKey> only;
  private @Nullable Map<Kind, Set<String>> held;
  private @Nullable Access access;
  private @Nullable Predicate<Subject> subjects;

  /**
   * Looks at a principal.
   *
   * @param only the accounts of which may be told, or null for all: of a guest
   */
  Holdings(Engine engine, Principal who, Instant at, @Nullable Set<AccountKey> only) {
    this.engine = engine;
    this.who = who;
    this.at = at;
    this.only = only;
  }

  /** {@return whether it holds a thing, is in it, or is named by it} */
  boolean has(Kind kind, String key) {
    Set<AccountKey> told = only;
    if (told != null) {
      return switch (kind) {
        case PRINCIPALS -> key.equals(who.key().value());
        case ACCOUNTS -> told.contains(new AccountKey(key));
        default -> false;
      };
    }
    Catalogue catalogue = engine.catalogue();
    return switch (kind) {
      case PRINCIPALS -> isNamed(new PrincipalKey(key));
      case ACCOUNTS -> isIn(new AccountKey(key));
      case UNITS -> is(who.unit(), key) || who.reach().stream().anyMatch(it -> is(it.unit(), key));
      case PATTERNS -> is(who.pattern(), key);
      case GROUPS -> isIn(new GroupKey(key));
      case ASSIGNMENTS -> {
        Assignment it = catalogue.assignments().get(new AssignmentKey(key));
        yield it != null && subjects().test(it.subject());
      }
      case BRIDGES -> {
        Bridge it = catalogue.bridges().get(new BridgeKey(key));
        yield it != null && isIn(it.group());
      }
      case DELEGATIONS -> {
        Delegation it = catalogue.delegations().get(new DelegationKey(key));
        yield it != null && (it.principal().equals(who.key()) || it.delegate().equals(who.key()));
      }
      default -> held().getOrDefault(kind, Set.of()).contains(key);
    };
  }

  private static boolean is(@Nullable Key one, String key) {
    return one != null && one.value().equals(key);
  }

  private Predicate<Subject> subjects() {
    Predicate<Subject> known = subjects;
    if (known == null) {
      known = engine.subjectsOf(who.key(), at);
      subjects = known;
    }
    return known;
  }

  private boolean isIn(GroupKey key) {
    return engine.catalogue().groups().containsKey(key)
        && subjects().test(new Subject.OfGroup(key));
  }

  private boolean isIn(AccountKey key) {
    return key.equals(who.account())
        || guests().stream().anyMatch(it -> it.account().equals(key))
        || engine.catalogue().bridges().values().stream()
            .anyMatch(it -> it.account().equals(key) && isIn(it.group()));
  }

  private List<Guest> guests() {
    int number = engine.catalogue().principals().number(who.key());
    return number < 0 ? List.of() : engine.catalogue().links().guests(number);
  }

  /** Whether somebody is who it is, answers for it, or one of both may act for the other. */
  private boolean isNamed(PrincipalKey key) {
    return key.equals(who.key())
        || key.equals(who.manager())
        || key.equals(who.sponsor())
        || guests().stream().anyMatch(it -> key.equals(it.sponsor()))
        || hasDelegated(who.key(), key)
        || hasDelegated(key, who.key());
  }

  private boolean hasDelegated(PrincipalKey one, PrincipalKey to) {
    int number = engine.catalogue().principals().number(one);
    return number >= 0
        && engine.catalogue().links().delegations(number).stream()
            .anyMatch(it -> it.delegate().equals(to));
  }

  /** {@return whether it is allowed anything on a place} */
  boolean reaches(ResourceKey place) {
    AccountKey account = engine.catalogue().accountOf(place);
    Set<AccountKey> told = only;
    if (account == null || (told != null && !told.contains(account))) {
      return false;
    }
    Access known = access;
    if (known == null) {
      known = engine.access(new Session(who.key(), at, true, null));
      access = known;
    }
    return known.reaches(place);
  }

  /** Roles, sets, permissions, types and collections of what is assigned: read together. */
  private Map<Kind, Set<String>> held() {
    Map<Kind, Set<String>> known = held;
    if (known == null) {
      known = new EnumMap<>(Kind.class);
      held = known;
      gather();
    }
    return known;
  }

  private void add(Kind kind, Key key) {
    held().computeIfAbsent(kind, _ -> new HashSet<>()).add(key.value());
  }

  private void gather() {
    Catalogue catalogue = engine.catalogue();
    Predicate<Subject> own = subjects();
    Set<Gives> given = new HashSet<>();
    for (Assignment it : catalogue.assignments().values()) {
      if (own.test(it.subject())) {
        given(it.gives(), given);
        it.scope().forEach(this::named);
        it.viewScope().forEach(this::named);
      }
    }
    for (Bridge it : catalogue.bridges().values()) {
      if (isIn(it.group())) {
        given(it.gives(), given);
        it.scope().forEach(this::named);
      }
    }
  }

  /**
   * Of what a scope names, collections and types are told; of places only those that one reaches.
   */
  private void named(Clause clause) {
    for (Term term : clause.terms()) {
      switch (term) {
        case Term.InCollection(CollectionKey key) -> add(Kind.COLLECTIONS, key);
        case Term.OfType(TypeKey key) -> add(Kind.RESOURCE_TYPES, key);
        default -> {
          // a place, or nothing by name
        }
      }
    }
  }

  private void given(Gives gives, Set<Gives> seen) {
    if (!seen.add(gives)) {
      return;
    }
    Catalogue catalogue = engine.catalogue();
    switch (gives) {
      case Gives.OfRole(RoleKey key) -> {
        add(Kind.ROLES, key);
        Role role = catalogue.roles().get(key);
        if (role != null) {
          role.sets().forEach(it -> given(new Gives.OfSet(it), seen));
          role.inherits().forEach(it -> given(new Gives.OfRole(it), seen));
        }
      }
      case Gives.OfSet(PermissionSetKey key) -> {
        add(Kind.PERMISSION_SETS, key);
        PermissionSet set = catalogue.sets().get(key);
        if (set != null) {
          set.allow().forEach(it -> given(new Gives.OfPermission(it), seen));
          set.deny().forEach(it -> given(new Gives.OfPermission(it), seen));
          set.includes().forEach(it -> given(new Gives.OfSet(it), seen));
        }
      }
      case Gives.OfPermission(PermissionKey key) -> {
        add(Kind.PERMISSIONS, key);
        Permission permission = catalogue.permissions().get(key);
        if (permission != null) {
          permission.implies().forEach(it -> given(new Gives.OfPermission(it), seen));
          permission.requires().forEach(it -> given(new Gives.OfPermission(it), seen));
          permission.on().forEach(it -> add(Kind.RESOURCE_TYPES, it));
        }
      }
    }
  }

  /** {@return whether it holds what a key of a kind names}, places by what is allowed on them */
  boolean tells(Kind kind, String key) {
    if (has(kind, key)) {
      return true;
    }
    return switch (kind) {
      case RESOURCES -> reaches(new ResourceKey(key));
      case ACCOUNTS -> reaches(new ResourceKey("account:" + key));
      case UNITS -> reaches(new ResourceKey("unit:" + key));
      case GROUPS -> reaches(new ResourceKey("group:" + key));
      default -> false;
    };
  }

  /** {@return a naming that tells of what is held, too} */
  Naming and(Naming other) {
    return (kind, key) -> other.tells(kind, key) || tells(kind, key);
  }
}
