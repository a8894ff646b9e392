package mandala.core.review;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Predicate;
import java.util.stream.Stream;
import mandala.core.authority.Authority;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/**
 * Finds who decides about items: never somebody about themselves, and only active people. Remembers
 * whom it found for accounts; ask one about many. For one thread.
 */
public final class Deciders {

  private final Engine engine;
  private final Catalogue catalogue;
  private final ReviewItems items;
  private final Instant at;
  private final Map<AccountKey, List<PrincipalKey>> ofAccounts = new HashMap<>();

  /** Looks for deciders in a model at an instant. */
  public Deciders(Engine engine, ReviewItems items, Instant at) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.items = items;
    this.at = at;
  }

  /** Who is to decide. */
  public sealed interface By {

    /** The manager of whoever has it; of a service who answers for it. */
    record Manager() implements By {}

    /** Who answers for a guest or a service. */
    record Sponsor() implements By {}

    /** The owner of the nearest place at or above the one where it gives something. */
    record PlaceOwner() implements By {}

    /** An owner of the group, the role or the pattern that it is of. */
    record ThingOwner() implements By {}

    /** An owner of the account in which it gives something. */
    record AccountOwner() implements By {}

    /** A person by name. */
    record Named(PrincipalKey who) implements By {}
  }

  /**
   * Who decides.
   *
   * @param by what makes them the decider
   * @param insteadOf whose deputy they are, null where they decide themselves
   */
  public record Chosen(PrincipalKey who, By by, @Nullable PrincipalKey insteadOf) {}

  /**
   * {@return who decides about an item}: the first of a list who is there, active, no party to it
   * and not unfit; instead of one who is absent, their deputy
   *
   * @param order who is asked first, and who where there is none
   * @param deputies the deputy of somebody who is absent
   * @param unfit who may not, for whatever reason
   */
  public Optional<Chosen> of(
      ReviewItem item,
      List<By> order,
      Function<PrincipalKey, Optional<PrincipalKey>> deputies,
      Predicate<PrincipalKey> unfit) {
    Set<PrincipalKey> parties = item.parties(catalogue);
    for (By by : order) {
      for (PrincipalKey first : all(item, by)) {
        Optional<PrincipalKey> deputy = deputies.apply(first);
        PrincipalKey who = deputy.orElse(first);
        if (!parties.contains(first)
            && !parties.contains(who)
            && !unfit.test(who)
            && isActivePerson(who)) {
          return Optional.of(new Chosen(who, by, deputy.isPresent() ? first : null));
        }
      }
    }
    return Optional.empty();
  }

  private boolean isActivePerson(PrincipalKey key) {
    Principal it = catalogue.principals().get(key);
    return it != null && it.kind() == Principal.Kind.PERSON && engine.isActive(key, at);
  }

  private List<PrincipalKey> all(ReviewItem item, By by) {
    return switch (by) {
      case By.Manager _ -> managers(item);
      case By.Sponsor _ -> sponsors(item);
      case By.PlaceOwner _ -> placeOwners(item);
      case By.ThingOwner _ -> thingOwners(item);
      case By.AccountOwner _ -> accountOwners(item);
      case By.Named(PrincipalKey who) -> List.of(who);
    };
  }

  private List<PrincipalKey> managers(ReviewItem item) {
    Principal who = item.whose().map(catalogue.principals()::get).orElse(null);
    if (who == null) {
      return List.of();
    }
    return Stream.of(who.kind() == Principal.Kind.SERVICE ? who.sponsor() : who.manager())
        .filter(Objects::nonNull)
        .toList();
  }

  private List<PrincipalKey> sponsors(ReviewItem item) {
    Principal who = item.whose().map(catalogue.principals()::get).orElse(null);
    List<PrincipalKey> found = new ArrayList<>();
    if (who != null) {
      if (who.sponsor() != null) {
        found.add(who.sponsor());
      }
      for (Guest it : catalogue.links().guests(catalogue.principals().number(who.key()))) {
        if (it.sponsor() != null) {
          found.add(it.sponsor());
        }
      }
    }
    return found;
  }

  // ---- owners -----------------------------------------------------------------------------------

  /** The assignments by which an item gives something, as far as they say where. */
  private List<Assignment> assignmentsOf(ReviewItem item) {
    return switch (item.removal()) {
      case Removal.Unassign(AssignmentKey key) -> {
        Assignment it = catalogue.assignments().get(key);
        yield it == null ? List.of() : List.of(it);
      }
      case Removal.Leave(GroupKey group, var _) -> items.assignedTo(new Subject.OfGroup(group));
      case Removal.LoseAttribute(GroupKey group, var _) ->
          items.assignedTo(new Subject.OfGroup(group));
      case Removal.DropRule(GroupKey group) -> items.assignedTo(new Subject.OfGroup(group));
      default -> List.of();
    };
  }

  private List<PrincipalKey> placeOwners(ReviewItem item) {
    List<PrincipalKey> found = new ArrayList<>();
    for (Assignment it : assignmentsOf(item)) {
      for (ResourceKey anchor : Authority.anchorsOf(it, catalogue)) {
        for (ResourceKey place = anchor; place != null && catalogue.has(place); ) {
          PrincipalKey owner = catalogue.ownerOf(place);
          if (owner != null) {
            found.add(owner);
            break;
          }
          place = catalogue.parentOf(place);
        }
      }
    }
    return found;
  }

  private List<PrincipalKey> thingOwners(ReviewItem item) {
    return switch (item.removal()) {
      case Removal.Leave(GroupKey group, var _) -> ownersOf(group);
      case Removal.LoseAttribute(GroupKey group, var _) -> ownersOf(group);
      case Removal.DropRule(GroupKey group) -> ownersOf(group);
      case Removal.TakeFromRole(RoleKey role, var _) -> ownersOf(role);
      case Removal.EndBridge(BridgeKey key) -> {
        Bridge it = catalogue.bridges().get(key);
        yield it == null ? List.of() : ownersOf(it.group());
      }
      case Removal.DropPattern(PrincipalKey who) -> {
        Principal it = catalogue.principals().get(who);
        yield it == null || it.pattern() == null ? List.of() : ownersOf(it.pattern());
      }
      case Removal.Unassign(AssignmentKey key) -> {
        List<PrincipalKey> found = new ArrayList<>(ownersOf(item.about()));
        Assignment it = catalogue.assignments().get(key);
        if (it != null && it.gives() instanceof Gives.OfRole(RoleKey role)) {
          found.addAll(ownersOf(role));
        }
        yield found;
      }
      default -> List.of();
    };
  }

  private List<PrincipalKey> ownersOf(Key thing) {
    return switch (thing) {
      case GroupKey key -> {
        Group it = catalogue.groups().get(key);
        yield it == null ? List.of() : it.owners();
      }
      case RoleKey key -> {
        Role it = catalogue.roles().get(key);
        yield it == null ? List.of() : it.owners();
      }
      case PatternKey key -> {
        Pattern it = catalogue.patterns().get(key);
        yield it == null ? List.of() : it.owners();
      }
      default -> List.of();
    };
  }

  private List<PrincipalKey> accountOwners(ReviewItem item) {
    AccountKey account = accountOf(item);
    return account == null
        ? List.of()
        : ofAccounts.computeIfAbsent(account, it -> Authority.ownersOf(engine, it, at));
  }

  /** {@return the account that an item is of}: where it gives something; null where that is many */
  public @Nullable AccountKey accountOf(ReviewItem item) {
    return switch (item.removal()) {
      case Removal.Leave(GroupKey group, var _) -> accountOf(group);
      case Removal.LoseAttribute(GroupKey group, var _) -> accountOf(group);
      case Removal.DropRule(GroupKey group) -> accountOf(group);
      case Removal.EndGuest(var _, AccountKey account) -> account;
      case Removal.EndBridge(BridgeKey key) -> {
        Bridge it = catalogue.bridges().get(key);
        yield it == null ? null : it.account();
      }
      case Removal.Undelegate(DelegationKey key) -> {
        Delegation it = catalogue.delegations().get(key);
        yield it == null ? null : accountOf(it.principal());
      }
      case Removal.Unassign(AssignmentKey key) -> {
        Assignment it = catalogue.assignments().get(key);
        yield it == null
            ? null
            : Authority.anchorsOf(it, catalogue).stream()
                .map(catalogue::accountOf)
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(null);
      }
      case Removal.EndExemption(ExclusionKey key, var _) -> {
        var it = catalogue.exclusions().get(key);
        yield it == null ? null : it.account();
      }
      case Removal.Disown(Key thing, var _) -> accountOf(thing);
      case Removal.TakeFromRole(RoleKey role, var _) -> accountOf(role);
      case Removal.DropPattern(PrincipalKey who) -> accountOf(who);
      case Removal.DropReach(PrincipalKey who, var _) -> accountOf(who);
      case Removal.OutOfRole _, Removal.OutOfSet _ -> null;
    };
  }

  private @Nullable AccountKey accountOf(Key thing) {
    return switch (thing) {
      case GroupKey key -> {
        Group it = catalogue.groups().get(key);
        yield it == null ? null : it.account();
      }
      case RoleKey key -> {
        Role it = catalogue.roles().get(key);
        yield it == null ? null : it.account();
      }
      case PrincipalKey key -> {
        Principal it = catalogue.principals().get(key);
        yield it == null ? null : it.account();
      }
      case ResourceKey key -> catalogue.has(key) ? catalogue.accountOf(key) : null;
      default -> null;
    };
  }
}
