package mandala.core.detect;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Expectation;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;

/** Roles, sets, groups and accounts that nothing names, that nobody owns or that few own. */
final class ThingSearch {

  /** Minimum number of owners of an account. */
  private static final int OWNERS = 2;

  /** Minimum number of people that a listed group brings. */
  private static final int CROWD = 5;

  /** Minimum ratio of these to the other members. */
  private static final int TIMES = 4;

  private final Basis basis;
  private final Catalogue catalogue;
  private final Consumer<Detection> found;

  private ThingSearch(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    catalogue = basis.catalogue;
    this.found = found;
  }

  static void search(Basis basis, Consumer<Detection> found) {
    ThingSearch search = new ThingSearch(basis, found);
    search.unused();
    search.crowds();
    search.owners();
  }

  // ---- unused -----------------------------------------------------------------------------------

  private void unused() {
    Set<Key> named = named();
    for (Role it : catalogue.roles().values()) {
      if (!it.retired() && !isSupplied(it.key()) && !named.contains(it.key())) {
        Gives gives = new Gives.OfRole(it.key());
        found.accept(
            Detection.ofModel(new Trouble.UnusedRole(it.key()), basis.given(gives).risk, 1));
      }
    }
    for (PermissionSet it : catalogue.sets().values()) {
      if (!isSupplied(it.key()) && !named.contains(it.key())) {
        Gives gives = new Gives.OfSet(it.key());
        found.accept(
            Detection.ofModel(new Trouble.UnusedSet(it.key()), basis.given(gives).risk, 1));
      }
    }
    for (Group it : catalogue.groups().values()) {
      if (!it.retired() && !named.contains(it.key())) {
        found.accept(Detection.ofModel(new Trouble.UnusedGroup(it.key()), Permission.Risk.LOW, 1));
      }
    }
  }

  private static boolean isSupplied(Key key) {
    return key.value().startsWith(Supplied.PREFIX);
  }

  /** Roles, sets and groups that something names. */
  private Set<Key> named() {
    Set<Key> named = new HashSet<>();
    for (Assignment it : catalogue.assignments().values()) {
      named.add(it.gives().key());
      name(it.subject(), named);
    }
    for (Bridge it : catalogue.bridges().values()) {
      if (it.status() != Bridge.Status.ENDED) {
        named.add(it.gives().key());
        named.add(it.group());
      }
    }
    for (Delegation it : catalogue.delegations().values()) {
      if (it.limit() instanceof Delegation.Limit.Listed(List<Gives> gives)) {
        gives.forEach(each -> named.add(each.key()));
      }
    }
    for (Role it : catalogue.roles().values()) {
      named.addAll(it.sets());
      named.addAll(it.inherits());
      named.addAll(it.prerequisites());
    }
    catalogue.sets().values().forEach(it -> named.addAll(it.includes()));
    for (Group it : catalogue.groups().values()) {
      for (Group.Member member : it.members()) {
        if (member instanceof Group.Member.OfGroup(GroupKey key)) {
          named.add(key);
        }
      }
    }
    for (Expectation it : catalogue.expectations().values()) {
      it.subjects().forEach(subject -> name(subject, named));
    }
    return named;
  }

  private static void name(Subject subject, Set<Key> named) {
    if (subject instanceof Subject.OfGroup(GroupKey key)) {
      named.add(key);
    }
  }

  // ---- few become many --------------------------------------------------------------------------

  private void crowds() {
    Map<GroupKey, Permission.Risk> given = given();
    for (Group it : catalogue.groups().values()) {
      Permission.Risk risk = given.getOrDefault(it.key(), Permission.Risk.LOW);
      boolean matters = risk.compareTo(Permission.Risk.HIGH) >= 0;
      if (matters && !it.retired() && it.rule() == null) {
        crowds(it, risk);
      }
    }
  }

  /** The highest risk of what a group is given. */
  private Map<GroupKey, Permission.Risk> given() {
    Map<GroupKey, Permission.Risk> given = new HashMap<>();
    for (Assignment it : catalogue.assignments().values()) {
      if (it.effect() == Assignment.Effect.ALLOW
          && basis.isInForce(it)
          && it.subject() instanceof Subject.OfGroup(GroupKey key)) {
        given.merge(key, basis.given(it).risk, ThingSearch::higher);
      }
    }
    for (Bridge it : catalogue.bridges().values()) {
      if (it.status() == Bridge.Status.ACCEPTED && it.window().holdsAt(basis.at)) {
        given.merge(it.group(), basis.given(it.gives()).risk, ThingSearch::higher);
      }
    }
    return given;
  }

  private static Permission.Risk higher(Permission.Risk one, Permission.Risk other) {
    return one.compareTo(other) >= 0 ? one : other;
  }

  private void crowds(Group it, Permission.Risk risk) {
    Map<Group.Member, Set<PrincipalKey>> by = new HashMap<>();
    for (Group.Member member : it.members()) {
      by.put(
          member,
          switch (member) {
            case Group.Member.OfPrincipal(var _, PrincipalKey key) -> Set.of(key);
            case Group.Member.OfGroup(GroupKey key) -> keys(basis.having(new Subject.OfGroup(key)));
          });
    }
    for (Group.Member member : it.members()) {
      if (member instanceof Group.Member.OfGroup(GroupKey key)) {
        Set<PrincipalKey> others = new HashSet<>();
        by.forEach((other, people) -> {
          if (!other.equals(member)) {
            others.addAll(people);
          }
        });
        int few = others.size();
        int many = by.getOrDefault(member, Set.of()).size();
        if (few > 0 && many >= CROWD && many >= TIMES * few) {
          found.accept(
              Detection.ofHomes(
                  Basis.homes(basis.having(new Subject.OfGroup(it.key()))),
                  new Trouble.FewBecomeMany(it.key(), key, few, many),
                  risk,
                  many));
        }
      }
    }
  }

  private static Set<PrincipalKey> keys(Collection<Principal> people) {
    Set<PrincipalKey> keys = new HashSet<>();
    people.forEach(it -> keys.add(it.key()));
    return keys;
  }

  // ---- owners -----------------------------------------------------------------------------------

  private void owners() {
    List<Principal> possible = new ArrayList<>();
    basis.engine.possibleOwners().stream().filter(basis::isActive).forEach(possible::add);
    for (Account it : catalogue.accounts().values()) {
      if (catalogue.isLive(it.key())) {
        int owners = 0;
        for (int i = 0; i < possible.size() && owners < OWNERS; i++) {
          owners += basis.engine.owns(possible.get(i).key(), it.key(), basis.at) ? 1 : 0;
        }
        if (owners < OWNERS) {
          found.accept(
              Detection.ofHomes(
                  Set.of(it.key()),
                  new Trouble.FewOwners(it.key(), owners),
                  owners == 0 ? Permission.Risk.CRITICAL : Permission.Risk.HIGH,
                  OWNERS - owners));
        }
      }
    }
  }
}
