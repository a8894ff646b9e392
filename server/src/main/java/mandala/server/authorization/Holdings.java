package mandala.server.authorization;

import java.time.Instant;
import java.util.EnumMap;
import java.util.HashSet;
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
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
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
    return held().getOrDefault(kind, Set.of()).contains(key);
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

  private Map<Kind, Set<String>> held() {
    Map<Kind, Set<String>> known = held;
    if (known == null) {
      known = new EnumMap<>(Kind.class);
      held = known;
      if (only == null) {
        gather();
      } else {
        add(Kind.PRINCIPALS, who.key());
        only.forEach(it -> add(Kind.ACCOUNTS, it));
      }
    }
    return known;
  }

  private void add(Kind kind, @Nullable Key key) {
    if (key != null) {
      held().computeIfAbsent(kind, _ -> new HashSet<>()).add(key.value());
    }
  }

  private void gather() {
    Catalogue catalogue = engine.catalogue();
    add(Kind.PRINCIPALS, who.key());
    add(Kind.PRINCIPALS, who.manager());
    add(Kind.PRINCIPALS, who.sponsor());
    add(Kind.ACCOUNTS, who.account());
    add(Kind.UNITS, who.unit());
    add(Kind.PATTERNS, who.pattern());
    who.reach().forEach(it -> add(Kind.UNITS, it.unit()));
    int number = catalogue.principals().number(who.key());
    if (number >= 0) {
      for (Guest it : catalogue.links().guests(number)) {
        add(Kind.ACCOUNTS, it.account());
        add(Kind.PRINCIPALS, it.sponsor());
      }
      for (Delegation it : catalogue.links().delegations(number)) {
        add(Kind.DELEGATIONS, it.key());
        add(Kind.PRINCIPALS, it.delegate());
      }
    }
    for (Delegation it : catalogue.delegations().values()) {
      if (it.delegate().equals(who.key())) {
        add(Kind.DELEGATIONS, it.key());
        add(Kind.PRINCIPALS, it.principal());
      }
    }
    Predicate<Subject> own = engine.subjectsOf(who.key(), at);
    for (Group it : catalogue.groups().values()) {
      if (own.test(new Subject.OfGroup(it.key()))) {
        add(Kind.GROUPS, it.key());
      }
    }
    Set<Gives> given = new HashSet<>();
    for (Assignment it : catalogue.assignments().values()) {
      if (own.test(it.subject())) {
        add(Kind.ASSIGNMENTS, it.key());
        given(it.gives(), given);
        it.scope().forEach(this::named);
        it.viewScope().forEach(this::named);
      }
    }
    for (Bridge it : catalogue.bridges().values()) {
      if (has(Kind.GROUPS, it.group().value())) {
        add(Kind.BRIDGES, it.key());
        add(Kind.ACCOUNTS, it.account());
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
