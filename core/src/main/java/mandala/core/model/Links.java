package mandala.core.model;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.table.Register;
import mandala.core.table.Table;
import org.jspecify.annotations.Nullable;

/**
 * Who refers to whom, by the numbers that the catalogue's registers give: groups that list a
 * principal or a group, groups of an account that have a rule, and what hangs on a principal.
 * Immutable; a changed thing shares all else. What dangles in a faulty model is left out.
 */
public final class Links {

  private static final int[] NONE = new int[0];

  private Table<int[]> listing = Table.empty();
  private Table<int[]> nesting = Table.empty();
  private Table<int[]> ruled = Table.empty();
  private Table<List<Guest>> guests = Table.empty();
  private Table<List<Activation>> activations = Table.empty();
  private Table<List<Delegation>> delegations = Table.empty();

  /** Made when it is asked for; null where activations have changed since. */
  private volatile @Nullable Map<AssignmentKey, List<Activation>> byAssignment;

  private Links() {}

  private Links(Links before) {
    listing = before.listing;
    nesting = before.nesting;
    ruled = before.ruled;
    guests = before.guests;
    activations = before.activations;
    delegations = before.delegations;
    byAssignment = before.byAssignment;
  }

  static Links of(
      AccessModel model,
      Register<PrincipalKey, Principal> principals,
      Register<GroupKey, Group> groups,
      Register<AccountKey, Account> accounts) {
    int[][] listing = new int[principals.numbers()][];
    int[][] nesting = new int[groups.numbers()][];
    int[][] ruled = new int[accounts.numbers()][];
    for (int g = 0; g < groups.numbers(); g++) {
      Group group = groups.the(g);
      for (Group.Member member : group.members()) {
        switch (member) {
          case Group.Member.OfPrincipal(var _, PrincipalKey key) ->
              add(listing, principals.number(key), g);
          case Group.Member.OfGroup(GroupKey key) -> add(nesting, groups.number(key), g);
        }
      }
      if (group.rule() != null) {
        add(ruled, accounts.number(group.account()), g);
      }
    }
    Links links = new Links();
    links.listing = trimmed(listing);
    links.nesting = trimmed(nesting);
    links.ruled = trimmed(ruled);
    links.guests = lists(model.guests(), principals, Guest::principal);
    links.activations = lists(model.activations(), principals, Activation::principal);
    links.delegations = lists(model.delegations(), principals, Delegation::principal);
    return links;
  }

  /** Adds to a list that doubles and keeps its length in its first place. */
  private static void add(int[][] lists, int at, int value) {
    if (at >= 0) {
      int[] list = lists[at] == null ? new int[4] : lists[at];
      if (list[0] + 1 == list.length) {
        list = Arrays.copyOf(list, list.length * 2);
      }
      list[++list[0]] = value;
      lists[at] = list;
    }
  }

  private static Table<int[]> trimmed(int[][] lists) {
    for (int i = 0; i < lists.length; i++) {
      if (lists[i] != null) {
        lists[i] = Arrays.copyOfRange(lists[i], 1, lists[i][0] + 1);
      }
    }
    return Table.of(lists);
  }

  private static <T> Table<List<T>> lists(
      List<T> things,
      Register<PrincipalKey, Principal> principals,
      java.util.function.Function<T, PrincipalKey> of) {
    @SuppressWarnings({"unchecked", "rawtypes"}) // filled with lists of T only
    List<T>[] lists = new List[things.isEmpty() ? 0 : principals.numbers()];
    for (T thing : things) {
      int p = principals.number(of.apply(thing));
      if (p >= 0) {
        lists[p] = plus(lists[p], thing);
      }
    }
    return Table.of(lists);
  }

  private static <T> List<T> plus(@Nullable List<T> list, T thing) {
    List<T> longer = new ArrayList<>(list == null ? List.of() : list);
    longer.add(thing);
    return List.copyOf(longer);
  }

  private static <T> Table<List<T>> minus(Table<List<T>> lists, int at, T thing) {
    List<T> shorter = new ArrayList<>(lists.getOr(at, List.of()));
    shorter.remove(thing);
    return lists.with(at, shorter.isEmpty() ? null : List.copyOf(shorter));
  }

  private static Table<int[]> plus(Table<int[]> lists, int at, int value) {
    int[] list = lists.getOr(at, NONE);
    int[] longer = Arrays.copyOf(list, list.length + 1);
    longer[list.length] = value;
    return lists.with(at, longer);
  }

  private static Table<int[]> minus(Table<int[]> lists, int at, int value) {
    int[] list = lists.getOr(at, NONE);
    for (int i = 0; i < list.length; i++) {
      if (list[i] == value) {
        int[] shorter = new int[list.length - 1];
        System.arraycopy(list, 0, shorter, 0, i);
        System.arraycopy(list, i + 1, shorter, i, shorter.length - i);
        return lists.with(at, shorter.length == 0 ? null : shorter);
      }
    }
    return lists;
  }

  /** A group came, changed or went; its members of before and after are compared. */
  Links with(
      @Nullable Group before,
      @Nullable Group after,
      Register<PrincipalKey, Principal> principals,
      Register<GroupKey, Group> groups,
      Register<AccountKey, Account> accounts) {
    Links links = new Links(this);
    Group either = after == null ? before : after;
    if (either == null) {
      return links;
    }
    int g = groups.require(either.key());
    List<Group.Member> old = before == null ? List.of() : before.members();
    List<Group.Member> now = after == null ? List.of() : after.members();
    java.util.Set<Group.Member> stays = new java.util.HashSet<>(now);
    for (Group.Member member : old) {
      if (!stays.remove(member)) {
        links.put(member, g, false, principals, groups);
      }
    }
    java.util.Set<Group.Member> was = new java.util.HashSet<>(old);
    for (Group.Member member : now) {
      if (was.add(member)) {
        links.put(member, g, true, principals, groups);
      }
    }
    int from = before == null ? -1 : accounts.number(before.account());
    if (before != null && before.rule() != null && from >= 0) {
      links.ruled = minus(links.ruled, from, g);
    }
    int to = after == null ? -1 : accounts.number(after.account());
    if (after != null && after.rule() != null && to >= 0) {
      links.ruled = plus(links.ruled, to, g);
    }
    return links;
  }

  private void put(
      Group.Member member,
      int group,
      boolean in,
      Register<PrincipalKey, Principal> principals,
      Register<GroupKey, Group> groups) {
    switch (member) {
      case Group.Member.OfPrincipal(var _, PrincipalKey key) -> {
        int p = principals.number(key);
        if (p >= 0) { // else it dangles: the check tells
          listing = in ? plus(listing, p, group) : minus(listing, p, group);
        }
      }
      case Group.Member.OfGroup(GroupKey key) -> {
        int inner = groups.number(key);
        if (inner >= 0) {
          nesting = in ? plus(nesting, inner, group) : minus(nesting, inner, group);
        }
      }
    }
  }

  /** A principal is gone, and whatever still points at it points nowhere. */
  Links withoutPrincipal(int principal) {
    Links links = new Links(this);
    links.listing = listing.with(principal, null);
    links.guests = guests.with(principal, null);
    links.activations = activations.with(principal, null);
    links.byAssignment = null;
    links.delegations = delegations.with(principal, null);
    return links;
  }

  /** A group is gone, and whatever still holds it holds nothing. */
  Links withoutGroup(int group) {
    Links links = new Links(this);
    links.nesting = nesting.with(group, null);
    return links;
  }

  Links with(Guest it, Register<PrincipalKey, Principal> principals) {
    Links links = new Links(this);
    int p = principals.number(it.principal());
    if (p >= 0) {
      links.guests = guests.with(p, plus(guests.get(p), it));
    }
    return links;
  }

  Links without(Guest it, Register<PrincipalKey, Principal> principals) {
    Links links = new Links(this);
    int p = principals.number(it.principal());
    if (p >= 0) {
      links.guests = minus(guests, p, it);
    }
    return links;
  }

  Links with(Activation it, Register<PrincipalKey, Principal> principals) {
    Links links = new Links(this);
    int p = principals.number(it.principal());
    if (p >= 0) {
      links.activations = activations.with(p, plus(activations.get(p), it));
      links.byAssignment = null;
    }
    return links;
  }

  Links without(Activation it, Register<PrincipalKey, Principal> principals) {
    Links links = new Links(this);
    int p = principals.number(it.principal());
    if (p >= 0) {
      links.activations = minus(activations, p, it);
      links.byAssignment = null;
    }
    return links;
  }

  Links with(Delegation it, Register<PrincipalKey, Principal> principals) {
    Links links = new Links(this);
    int p = principals.number(it.principal());
    if (p >= 0) {
      links.delegations = delegations.with(p, plus(delegations.get(p), it));
    }
    return links;
  }

  Links without(Delegation it, Register<PrincipalKey, Principal> principals) {
    Links links = new Links(this);
    int p = principals.number(it.principal());
    if (p >= 0) {
      links.delegations = minus(delegations, p, it);
    }
    return links;
  }

  /** {@return the numbers of the groups that list a principal}; not to be changed */
  public int[] listing(int principal) {
    return listing.getOr(principal, NONE);
  }

  /** {@return the numbers of the groups that list a group}; not to be changed */
  public int[] nesting(int group) {
    return nesting.getOr(group, NONE);
  }

  /** {@return the numbers of an account's groups that have a rule}; not to be changed */
  public int[] ruled(int account) {
    return ruled.getOr(account, NONE);
  }

  /** {@return a principal's guest memberships} */
  public List<Guest> guests(int principal) {
    return guests.getOr(principal, List.of());
  }

  /** {@return the activations that a principal made} */
  public List<Activation> activations(int principal) {
    return activations.getOr(principal, List.of());
  }

  /** {@return the delegations in which a principal is acted for} */
  public List<Delegation> delegations(int principal) {
    return delegations.getOr(principal, List.of());
  }

  List<Guest> allGuests(Register<PrincipalKey, Principal> principals) {
    return all(guests, principals);
  }

  List<Activation> allActivations(Register<PrincipalKey, Principal> principals) {
    return all(activations, principals);
  }

  /** {@return the activations of an assignment}, by the numbers of their principals */
  List<Activation> activations(AssignmentKey of, Register<PrincipalKey, Principal> principals) {
    Map<AssignmentKey, List<Activation>> known = byAssignment;
    if (known == null) {
      known =
          allActivations(principals).stream()
              .collect(Collectors.groupingBy(Activation::assignment));
      byAssignment = known;
    }
    return known.getOrDefault(of, List.of());
  }

  private static <T> List<T> all(
      Table<List<T>> lists, Register<PrincipalKey, Principal> principals) {
    List<T> all = new ArrayList<>();
    for (int p = 0; p < principals.numbers(); p++) {
      all.addAll(lists.getOr(p, List.of()));
    }
    return all;
  }
}
