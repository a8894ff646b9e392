package mandala.core.route;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Activation;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Key;
import mandala.core.model.Pattern;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import org.jspecify.annotations.Nullable;

/** What is looked up on the way, by what it is looked up with. Immutable once built. */
final class RouteIndex {

  private final Catalogue catalogue;
  private final Map<Key.Principal, List<Guest>> guests = new HashMap<>();
  private final Map<Key.Principal, List<Group>> listing = new HashMap<>();
  private final Map<Key.Group, List<Group>> nesting = new HashMap<>();
  private final List<Group> ruled = new ArrayList<>();
  private final Map<Key.Principal, List<Activation>> activations = new HashMap<>();
  private final Map<Key.Principal, List<Delegation>> delegations = new HashMap<>();

  RouteIndex(Catalogue catalogue) {
    this.catalogue = catalogue;
    for (Guest it : catalogue.model().guests()) {
      guests.computeIfAbsent(it.principal(), _ -> new ArrayList<>()).add(it);
    }
    for (Group group : catalogue.groups().values()) {
      if (group.rule() != null) {
        ruled.add(group);
      }
      for (Group.Member member : group.members()) {
        switch (member) {
          case Group.Member.OfPrincipal(Principal.Kind _, Key.Principal key) ->
              listing.computeIfAbsent(key, _ -> new ArrayList<>()).add(group);
          case Group.Member.OfGroup(Key.Group key) ->
              nesting.computeIfAbsent(key, _ -> new ArrayList<>()).add(group);
        }
      }
    }
    for (Activation it : catalogue.model().activations()) {
      activations.computeIfAbsent(it.principal(), _ -> new ArrayList<>()).add(it);
    }
    for (Delegation it : catalogue.model().delegations()) {
      delegations.computeIfAbsent(it.principal(), _ -> new ArrayList<>()).add(it);
    }
  }

  Catalogue catalogue() {
    return catalogue;
  }

  List<Guest> guests(Key.Principal key) {
    return guests.getOrDefault(key, List.of());
  }

  /** {@return the groups that list a principal} */
  List<Group> listing(Key.Principal key) {
    return listing.getOrDefault(key, List.of());
  }

  /** {@return the groups that list a group} */
  List<Group> nesting(Key.Group key) {
    return nesting.getOrDefault(key, List.of());
  }

  List<Group> ruled() {
    return ruled;
  }

  List<Activation> activations(Key.Principal key) {
    return activations.getOrDefault(key, List.of());
  }

  /** {@return the delegations in which a principal is acted for} */
  List<Delegation> delegations(Key.Principal key) {
    return delegations.getOrDefault(key, List.of());
  }

  /** {@return the account in which a known resource lies} */
  Key.Account accountOf(Key.Resource resource) {
    Key.Account account = catalogue.accountOf(resource);
    if (account == null) {
      throw new IllegalStateException("Impossible state: no account for " + resource);
    }
    return account;
  }

  /** {@return the source account of a bridge}: its group's */
  Key.Account sourceOf(Bridge bridge) {
    Group group = catalogue.groups().get(bridge.group());
    if (group == null) {
      throw new IllegalStateException("Impossible state: no group " + bridge.group());
    }
    return group.account();
  }

  /** {@return the account where relative terms of an assignment to a subject stay}, or null */
  Key.@Nullable Account homeOf(Subject subject) {
    return switch (subject) {
      case Subject.OfGroup(Key.Group key) -> {
        Group group = catalogue.groups().get(key);
        yield group == null ? null : group.account();
      }
      case Subject.OfAccount(Key.Account key) -> key;
      case Subject.OfPattern(Key.Pattern key) -> {
        Pattern pattern = catalogue.patterns().get(key);
        yield pattern == null ? null : pattern.account();
      }
      case Subject.OfPrincipal _, Subject.Public _ -> null;
    };
  }

  /** {@return the resource of a gate for a resource}, or null where there is none (section 6) */
  Key.@Nullable Resource gateAt(Key.Permission gate, Key.Resource resource) {
    Permission it = catalogue.permissions().get(gate);
    Key.Account account = accountOf(resource);
    for (Key.Resource at = resource;
        at != null && accountOf(at).equals(account);
        at = catalogue.parentOf(at)) {
      if (it != null && it.on().contains(catalogue.typeOf(at))) {
        return at;
      }
    }
    return null;
  }
}
