package mandala.core.engine;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Key;
import mandala.core.model.Principal;
import mandala.core.model.Unit;
import org.jspecify.annotations.Nullable;

/** Accounts, units, principals and groups by dense id, and who is listed where (section 2). */
final class Directory {

  final List<Account> accounts;
  final List<Unit> units;
  final List<Principal> principals;
  final List<Group> groups;
  final Map<Key.Account, Integer> accountId;
  final Map<Key.Unit, Integer> unitId;
  final Map<Key.Principal, Integer> principalId;
  final Map<Key.Group, Integer> groupId;

  final PreOrder accountOrder;
  final PreOrder unitOrder;
  final PreOrder managerOrder;

  /** By account: it and all above it are active. */
  final boolean[] live;

  /** By principal: groups that list it. By group: groups that list it. */
  final int[][] listedIn;

  final int[][] nestedIn;

  /** By account: its groups that have a rule. */
  final int[][] ruleGroups;

  /** By principal: its guest memberships. */
  final List<List<Guest>> guestships;

  Directory(Catalogue model) {
    accounts = List.copyOf(model.accounts().values());
    units = List.copyOf(model.units().values());
    principals = List.copyOf(model.principals().values());
    groups = List.copyOf(model.groups().values());
    accountId = number(accounts, Account::key);
    unitId = number(units, Unit::key);
    principalId = number(principals, Principal::key);
    groupId = number(groups, Group::key);
    accountOrder = PreOrder.of(above(accounts, Account::parent, accountId));
    unitOrder = PreOrder.of(above(units, Unit::parent, unitId));
    managerOrder = PreOrder.of(above(principals, Principal::manager, principalId));
    live = new boolean[accounts.size()];
    for (int a = 0; a < live.length; a++) {
      live[a] = model.isLive(accounts.get(a).key());
    }
    listedIn = new int[principals.size()][];
    nestedIn = new int[groups.size()][];
    ruleGroups = new int[accounts.size()][];
    memberships();
    guestships = new ArrayList<>();
    principals.forEach(_ -> guestships.add(new ArrayList<>(0)));
    model
        .model()
        .guests()
        .forEach(it -> guestships.get(Snapshot.id(principalId, it.principal())).add(it));
  }

  private static <K, T> Map<K, Integer> number(List<T> things, Function<T, K> key) {
    Map<K, Integer> numbers = HashMap.newHashMap(things.size());
    for (int i = 0; i < things.size(); i++) {
      numbers.put(key.apply(things.get(i)), i);
    }
    return numbers;
  }

  private static <K, T> int[] above(
      List<T> things, Function<T, @Nullable K> parent, Map<K, Integer> id) {
    int[] above = new int[things.size()];
    for (int i = 0; i < above.length; i++) {
      K up = parent.apply(things.get(i));
      above[i] = up == null ? -1 : Snapshot.id(id, up);
    }
    return above;
  }

  private void memberships() {
    Ints[] listed = new Ints[listedIn.length];
    Ints[] nested = new Ints[nestedIn.length];
    Ints[] ruled = new Ints[ruleGroups.length];
    for (int g = 0; g < groups.size(); g++) {
      Group group = groups.get(g);
      for (Group.Member member : group.members()) {
        switch (member) {
          case Group.Member.OfPrincipal(Principal.Kind _, Key.Principal key) ->
              put(listed, Snapshot.id(principalId, key), g);
          case Group.Member.OfGroup(Key.Group key) -> put(nested, Snapshot.id(groupId, key), g);
        }
      }
      if (group.rule() != null) {
        put(ruled, Snapshot.id(accountId, group.account()), g);
      }
    }
    close(listed, listedIn);
    close(nested, nestedIn);
    close(ruled, ruleGroups);
  }

  private static void put(Ints[] lists, int at, int value) {
    if (lists[at] == null) {
      lists[at] = new Ints();
    }
    lists[at].add(value);
  }

  private static void close(Ints[] lists, int[][] into) {
    int[] none = new int[0];
    for (int i = 0; i < into.length; i++) {
      into[i] = lists[i] == null ? none : lists[i].toArray();
    }
  }

  /** {@return whether an account is another or below it} */
  boolean isAtOrBelow(int account, int top) {
    int rank = accountOrder.rank[account];
    int from = accountOrder.rank[top];
    return from <= rank && rank < accountOrder.end[from];
  }
}
