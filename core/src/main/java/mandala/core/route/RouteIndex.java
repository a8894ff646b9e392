package mandala.core.route;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Activation;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Key;
import mandala.core.model.Principal;

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
}
