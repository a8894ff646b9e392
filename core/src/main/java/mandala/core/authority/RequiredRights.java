package mandala.core.authority;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * What a change asks for, row by row of the table in section 11. Resources are named by a thing's
 * old and by its new values; one that the draft itself creates stands for its nearest ancestor that
 * existed before.
 */
final class RequiredRights {

  private final Catalogue before;
  private final Catalogue after;
  private final PrincipalKey author;
  private final Set<RequiredRight> found = new LinkedHashSet<>();

  private RequiredRights(Catalogue before, Catalogue after, PrincipalKey author) {
    this.before = before;
    this.after = after;
    this.author = author;
  }

  /** {@return what a change asks for}, in the order of the table; none where nobody is asked */
  static List<RequiredRight> of(
      Change change, Catalogue before, Catalogue after, PrincipalKey author) {
    RequiredRights demands = new RequiredRights(before, after, author);
    switch (change) {
      case Change.Added(Thing thing) -> demands.of(null, thing);
      case Change.Altered(Thing old, Thing now) -> demands.of(old, now);
      case Change.Removed(Thing thing) -> demands.of(thing, null);
    }
    return List.copyOf(demands.found);
  }

  private void of(@Nullable Thing old, @Nullable Thing now) {
    switch (now == null ? Objects.requireNonNull(old) : now) {
      case Principal _ -> principal((Principal) old, (Principal) now);
      case Unit _ -> both(old, now, (it, _) -> unit((Unit) it));
      case Guest _ -> both(old, now, (it, in) -> guest((Guest) it, in));
      case Group _ -> group((Group) old, (Group) now);
      case Permission _ -> both(old, now, (it, _) -> define(((Permission) it).account()));
      case PermissionSet _ -> both(old, now, (it, _) -> define(((PermissionSet) it).account()));
      case Role _ -> both(old, now, (it, _) -> define(((Role) it).account()));
      case Pattern _ -> both(old, now, (it, _) -> define(((Pattern) it).account()));
      case ResourceType _ -> both(old, now, (it, _) -> define(((ResourceType) it).account()));
      case Exclusion _ -> both(old, now, (it, _) -> define(((Exclusion) it).account()));
      case Expectation _ -> both(old, now, (it, _) -> define(((Expectation) it).account()));
      case Resource _ -> resource((Resource) old, (Resource) now);
      case ResourceCollection _ -> both(old, now, (it, _) -> collection((ResourceCollection) it));
      case Assignment _ -> both(old, now, (it, in) -> assignment((Assignment) it, in));
      case Bridge _ -> bridge((Bridge) old, (Bridge) now);
      case Account _ -> both(old, now, (it, _) -> account((Account) it));
      case Delegation _ -> both(old, now, (it, in) -> delegation((Delegation) it, in));
      case Activation _ -> {} // by the principal itself only: Authority judges it
    }
  }

  @FunctionalInterface
  private interface Row {
    void of(Thing thing, Catalogue in);
  }

  private void both(@Nullable Thing old, @Nullable Thing now, Row row) {
    if (old != null) {
      row.of(old, before);
    }
    if (now != null) {
      row.of(now, after);
    }
  }

  private void need(PermissionKey permission, ResourceKey resource) {
    found.add(RequiredRight.of(permission, existing(resource)));
  }

  private void need(PermissionKey permission, AccountKey account) {
    need(permission, ResourceKey.of(account));
  }

  /** The resource itself, or its nearest ancestor that existed before. */
  private ResourceKey existing(ResourceKey resource) {
    ResourceKey at = resource;
    while (!before.has(at)) {
      ResourceKey parent = after.has(at) ? after.parentOf(at) : null;
      if (parent == null) {
        return at; // a new root account, or a dangling reference: nobody has anything there
      }
      at = parent;
    }
    return at;
  }

  private void principal(@Nullable Principal old, @Nullable Principal now) {
    both(old, now, (it, _) -> need(Supplied.PEOPLE_MANAGE, ((Principal) it).place()));
    if (now == null) {
      return;
    }
    Map<UnitKey, Principal.Level> had =
        (old == null ? List.<Principal.Reach>of() : old.reach())
            .stream()
                .collect(
                    Collectors.toMap(
                        Principal.Reach::unit,
                        Principal.Reach::level,
                        (one, other) -> one == Principal.Level.FULL ? one : other));
    for (Principal.Reach reach : now.reach()) {
      Principal.Level level = had.get(reach.unit());
      if (level == null
          || (level == Principal.Level.VIEW && reach.level() == Principal.Level.FULL)) {
        need(Supplied.PEOPLE_MANAGE, ResourceKey.of(reach.unit()));
      }
    }
  }

  private void unit(Unit it) {
    ResourceKey itself = ResourceKey.of(it.key());
    need(Supplied.PEOPLE_MANAGE, itself);
    need(
        Supplied.PEOPLE_MANAGE,
        it.parent() == null ? ResourceKey.of(it.account()) : ResourceKey.of(it.parent()));
  }

  private void guest(Guest it, Catalogue in) {
    need(Supplied.PEOPLE_MANAGE, it.account());
    if (it.withSubaccounts()) {
      in.accounts().keySet().stream()
          .filter(below -> in.isAtOrBelow(below, it.account()))
          .forEach(below -> need(Supplied.PEOPLE_MANAGE, below));
    }
  }

  private void group(@Nullable Group old, @Nullable Group now) {
    boolean stays = old != null && now != null && old.account().equals(now.account());
    both(
        old,
        now,
        (it, _) -> {
          Group group = (Group) it;
          need(Supplied.GROUPS_MANAGE, ResourceKey.of(group.key()));
          if (!stays) {
            need(Supplied.GROUPS_MANAGE, group.account());
          }
        });
    if (now != null) {
      for (Group.Member member : now.members()) {
        if (member instanceof Group.Member.OfGroup(GroupKey key)
            && (old == null || !old.members().contains(member))) {
          need(Supplied.GROUPS_MANAGE, ResourceKey.of(key));
        }
      }
    }
  }

  /** What all share, all must agree to. */
  private void define(@Nullable AccountKey owner) {
    if (owner != null) {
      need(Supplied.RIGHTS_DEFINE, owner);
    } else {
      onEveryRoot(Supplied.RIGHTS_DEFINE);
    }
  }

  private void onEveryRoot(PermissionKey permission) {
    before.accounts().values().stream()
        .filter(account -> account.parent() == null)
        .forEach(account -> need(permission, account.key()));
  }

  private void resource(@Nullable Resource old, @Nullable Resource now) {
    boolean stays =
        old != null
            && now != null
            && parentOf(old).equals(parentOf(now))
            && old.account().equals(now.account());
    both(
        old,
        now,
        (it, _) -> {
          need(Supplied.PLACES_MANAGE, ((Resource) it).key());
          if (!stays) {
            need(Supplied.PLACES_MANAGE, parentOf((Resource) it));
          }
        });
  }

  private static ResourceKey parentOf(Resource it) {
    return it.parent() == null ? ResourceKey.of(it.account()) : it.parent();
  }

  private void collection(ResourceCollection it) {
    it.members().forEach(member -> need(Supplied.PLACES_MANAGE, member));
    if (it.members().isEmpty()) {
      need(Supplied.PLACES_MANAGE, it.account());
    }
  }

  private void assignment(Assignment it, Catalogue in) {
    List<Clause> clauses = new ArrayList<>(it.scope());
    clauses.addAll(it.viewScope());
    Set<ResourceKey> anchors = new LinkedHashSet<>();
    if (it.scope().isEmpty()) {
      onEveryRoot(Supplied.ACCESS_ASSIGN);
    }
    for (Clause clause : clauses) {
      Set<ResourceKey> named = anchors(clause, it.subject(), in);
      if (named.isEmpty()) {
        onEveryRoot(Supplied.ACCESS_ASSIGN);
        before.accounts().values().stream()
            .filter(account -> account.parent() == null)
            .forEach(account -> anchors.add(ResourceKey.of(account.key())));
      }
      anchors.addAll(named);
    }
    anchors.forEach(anchor -> need(Supplied.ACCESS_ASSIGN, anchor));
    if (it.crossesSeals()) {
      sealedBelow(anchors, in).forEach(seal -> need(Supplied.ACCESS_ASSIGN, seal));
    }
  }

  /** {@return the resources that a clause names for a subject}, none where it names none */
  static Set<ResourceKey> anchors(Clause clause, Subject subject, Catalogue in) {
    Set<ResourceKey> anchors = new LinkedHashSet<>();
    for (Term term : clause.terms()) {
      switch (term) {
        case Term.Tree(ResourceKey key) -> anchors.add(key);
        case Term.Only(ResourceKey key) -> anchors.add(key);
        case Term.InCollection(CollectionKey key) -> {
          ResourceCollection collection = in.collections().get(key);
          if (collection != null) {
            anchors.addAll(collection.members());
          }
        }
        case Term.InAccount(AccountKey key) -> anchors.add(ResourceKey.of(key));
        case Term.InUnit(UnitKey key) -> anchors.add(ResourceKey.of(key));
        case Term.OwnAccount _, Term.OwnUnit _, Term.OwnedBy _ -> {
          if (term.relative()) {
            accountsOf(subject, term instanceof Term.OwnUnit, in)
                .forEach(account -> anchors.add(ResourceKey.of(account)));
          }
        }
        case Term.Everything _, Term.OfType _, Term.Labelled _ -> {}
      }
    }
    return anchors;
  }

  /** The accounts to which the relative terms of a subject are confined. */
  private static Set<AccountKey> accountsOf(Subject subject, boolean unit, Catalogue in) {
    Set<AccountKey> accounts = new LinkedHashSet<>();
    switch (subject) {
      case Subject.OfGroup(GroupKey key) -> {
        Group group = in.groups().get(key);
        if (group != null) {
          accounts.add(group.account());
        }
      }
      case Subject.OfAccount(AccountKey key) -> accounts.add(key);
      case Subject.OfPattern(PatternKey key) -> {
        Pattern pattern = in.patterns().get(key);
        if (pattern != null && pattern.account() != null) {
          accounts.add(pattern.account());
        }
      }
      case Subject.OfPrincipal(var _, PrincipalKey key) -> {
        Principal principal = in.principals().get(key);
        if (principal != null) {
          accounts.add(principal.account());
          if (unit) {
            for (Principal.Reach reach : principal.reach()) {
              Unit reached = in.units().get(reach.unit());
              if (reached != null) {
                accounts.add(reached.account());
              }
            }
          }
        }
      }
      case Subject.Public _ -> {}
    }
    return accounts;
  }

  private static Set<ResourceKey> sealedBelow(Set<ResourceKey> anchors, Catalogue in) {
    Set<ResourceKey> sealed = new LinkedHashSet<>();
    List<ResourceKey> all = new ArrayList<>();
    in.accounts().values().stream()
        .filter(Account::sealed)
        .forEach(account -> all.add(ResourceKey.of(account.key())));
    in.resources().values().stream()
        .filter(Resource::sealed)
        .forEach(resource -> all.add(resource.key()));
    for (ResourceKey seal : all) {
      for (ResourceKey at = seal; at != null; at = in.has(at) ? in.parentOf(at) : null) {
        if (anchors.contains(at)) {
          sealed.add(seal);
          break;
        }
      }
    }
    return sealed;
  }

  private void bridge(@Nullable Bridge old, @Nullable Bridge now) {
    if (old == null) {
      if (now != null) {
        offer(now, after);
        accept(now.status() == Bridge.Status.ACCEPTED, now);
      }
    } else if (now == null) {
      end(old);
    } else {
      boolean otherwise = !contentOf(old).equals(contentOf(now));
      boolean accepts =
          now.status() == Bridge.Status.ACCEPTED
              && (otherwise || old.status() != Bridge.Status.ACCEPTED);
      if (!otherwise && now.status() == Bridge.Status.ENDED) {
        end(old);
      } else if (otherwise || !accepts || old.status() == Bridge.Status.ENDED) {
        offer(old, before);
        offer(now, after);
      }
      accept(accepts, old, now);
    }
  }

  private void offer(Bridge it, Catalogue in) {
    sourceOf(it, in).ifPresent(source -> need(Supplied.BRIDGE_MANAGE, source));
  }

  private void accept(boolean accepts, Bridge... bridges) {
    for (Bridge it : bridges) {
      if (accepts) {
        need(Supplied.BRIDGE_MANAGE, it.account());
      }
    }
  }

  private void end(Bridge it) {
    List<ResourceKey> either = new ArrayList<>();
    sourceOf(it, before).ifPresent(source -> either.add(existing(ResourceKey.of(source))));
    either.add(existing(ResourceKey.of(it.account())));
    found.add(new RequiredRight(Supplied.BRIDGE_MANAGE, either));
  }

  /** All of a bridge but its status. */
  private static Bridge contentOf(Bridge it) {
    return new Bridge(
        it.key(),
        it.about(),
        it.account(),
        it.group(),
        it.gives(),
        it.scope(),
        it.window(),
        Bridge.Status.OFFERED);
  }

  private static java.util.Optional<AccountKey> sourceOf(Bridge it, Catalogue in) {
    return java.util.Optional.ofNullable(in.groups().get(it.group())).map(Group::account);
  }

  private void account(Account it) {
    need(Supplied.ACCOUNT_MANAGE, it.key());
    if (it.parent() != null) {
      need(Supplied.ACCOUNT_MANAGE, it.parent());
    }
  }

  private void delegation(Delegation it, Catalogue in) {
    Principal principal = in.principals().get(it.principal());
    if (principal != null && !principal.key().equals(author)) {
      need(Supplied.PEOPLE_MANAGE, principal.place());
    }
  }
}
