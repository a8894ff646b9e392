package mandala.core.compiled.space;

import java.util.ArrayDeque;
import java.util.Arrays;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashSet;
import java.util.Set;
import java.util.stream.IntStream;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.directory.DirectoryBuild;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.rights.WordCounts;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Resource;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import mandala.core.table.IntList;
import mandala.core.table.Numbers;
import mandala.core.table.PreOrder;
import mandala.core.table.Register;
import mandala.core.table.Table;

/**
 * Lays out places. 1. {@link #number} lists what there is: units, groups, resources, accounts last,
 * each kind by key, so that neighbours stand in the order of their keys whatever the order of the
 * model. 2. {@link #spread} gives positions in pre-order with gaps. The static methods draw what
 * else follows from positions.
 */
public final class ResourceSpaceBuild {

  int count;
  int[] node = Directory.NONE;
  int[] end = Directory.NONE;
  int[] parent = Directory.NONE;
  final int[] accountAt;
  final int[] ownEnd;
  final int[] unitAt;
  final int[] groupAt;
  final int[] resourceAt;

  private final Catalogue catalogue;
  private final int[] things;
  private final int[] above;
  private final Set<TypeKey> containers = new HashSet<>();

  ResourceSpaceBuild(Catalogue catalogue, Directory directory, Rights rights) {
    this.catalogue = catalogue;
    int[] units = byKey(catalogue.units());
    int[] groups = byKey(catalogue.groups());
    int[] resources = byKey(catalogue.resources());
    int[] accounts = byKey(catalogue.accounts());
    accountAt = new int[directory.accounts()];
    ownEnd = new int[directory.accounts()];
    unitAt = new int[catalogue.units().numbers()];
    groupAt = none(catalogue.groups().numbers());
    resourceAt = none(catalogue.resources().numbers());
    things = new int[units.length + groups.length + resources.length + accounts.length];
    above = new int[things.length];
    number(units, groups, resources, accounts);
    spread(PreOrder.of(above));
    if (rights.types.isEmpty()) {
      throw new IllegalStateException("Impossible state: no types");
    }
  }

  private static int[] none(int many) {
    int[] none = new int[many];
    Arrays.fill(none, Numbers.NONE);
    return none;
  }

  /** The numbers of a register's things, by key; mostly they stand so already. */
  private static <K extends Key, T> int[] byKey(Register<K, T> register) {
    String[] keys = new String[register.numbers()];
    int[] numbers = new int[register.size()];
    int next = 0;
    boolean sorted = true;
    String before = "";
    for (int i = 0; i < keys.length; i++) {
      T thing = register.at(i);
      if (thing != null) {
        String key = keyOf(thing);
        keys[i] = key;
        numbers[next++] = i;
        sorted &= before.compareTo(key) <= 0;
        before = key;
      }
    }
    return sorted
        ? numbers
        : IntStream.of(numbers)
            .boxed()
            .sorted(Comparator.comparing(i -> keys[i]))
            .mapToInt(Integer::intValue)
            .toArray();
  }

  private static String keyOf(Object thing) {
    return switch (thing) {
      case Unit it -> it.key().value();
      case Group it -> it.key().value();
      case Resource it -> it.key().value();
      case Account it -> it.key().value();
      default -> throw new IllegalStateException("Impossible state: no place for " + thing);
    };
  }

  private void number(int[] units, int[] groups, int[] resources, int[] accounts) {
    int[] unitIndex = indexed(units, catalogue.units().numbers(), 0);
    int[] resourceIndex =
        indexed(resources, catalogue.resources().numbers(), units.length + groups.length);
    int[] accountIndex =
        indexed(accounts, accountAt.length, units.length + groups.length + resources.length);
    int i = 0;
    for (int u : units) {
      Unit it = catalogue.units().the(u);
      above[i] =
          it.parent() == null
              ? accountIndex[catalogue.accounts().require(it.account())]
              : unitIndex[catalogue.units().require(it.parent())];
      things[i++] = u | ResourceSpace.UNIT;
    }
    for (int g : groups) {
      Group it = catalogue.groups().the(g);
      above[i] = accountIndex[catalogue.accounts().require(it.account())];
      things[i++] = g | ResourceSpace.GROUP;
    }
    for (int r : resources) {
      Resource it = catalogue.resources().the(r);
      ResourceKey up = it.parent();
      if (up == null) {
        above[i] = accountIndex[catalogue.accounts().require(it.account())];
      } else if (!up.implicit()) {
        above[i] = resourceIndex[catalogue.resources().require(up)];
      } else if (up.value().startsWith("unit:")) {
        above[i] = unitIndex[catalogue.units().require(new UnitKey(up.value().substring(5)))];
      } else {
        AccountKey account = new AccountKey(up.value().substring("account:".length()));
        above[i] = accountIndex[catalogue.accounts().require(account)];
      }
      things[i++] = r;
    }
    for (int a : accounts) {
      AccountKey up = catalogue.accounts().the(a).parent();
      above[i] = up == null ? -1 : accountIndex[catalogue.accounts().require(up)];
      things[i++] = a | ResourceSpace.ACCOUNT;
    }
  }

  private static int[] indexed(int[] numbers, int size, int from) {
    int[] index = new int[size];
    for (int i = 0; i < numbers.length; i++) {
      index[numbers[i]] = from + i;
    }
    return index;
  }

  /** How many positions to leave free in a place with so many children. */
  private int gap(int thing, int children) {
    if (isAccount(thing)) {
      return 16 + children / 8;
    }
    return children == 0 && !isContainer(thing) ? 0 : 2 + children / 8;
  }

  /** Of a type of which some have others below. */
  private boolean isContainer(int thing) {
    return (things[thing] & ResourceSpace.ACCOUNT) == ResourceSpace.RESOURCE
        && containers.contains(catalogue.resources().the(things[thing]).type());
  }

  private void findContainers(int[] children) {
    for (int thing = 0; thing < things.length; thing++) {
      if (children[thing] > 0
          && (things[thing] & ResourceSpace.ACCOUNT) == ResourceSpace.RESOURCE) {
        containers.add(catalogue.resources().the(things[thing]).type());
      }
    }
  }

  /**
   * Positions in pre-order; a gap stands after a place's children, an account's before accounts.
   */
  private void spread(PreOrder order) {
    int[] children = new int[things.length];
    int total = things.length;
    for (int thing = 0; thing < things.length; thing++) {
      if (above[thing] >= 0) {
        children[above[thing]]++;
      }
    }
    findContainers(children);
    for (int thing = 0; thing < things.length; thing++) {
      total += gap(thing, children[thing]);
    }
    count = total;
    node = new int[total];
    end = new int[total];
    parent = new int[total];
    int[] position = new int[things.length];
    Deque<Integer> open = new ArrayDeque<>();
    int next = 0;
    for (int rank = 0; rank <= things.length; rank++) {
      while (!open.isEmpty() && order.end[order.rank[open.peek()]] <= rank) {
        int done = open.pop();
        next = close(done, next, position, children);
      }
      if (rank == things.length) {
        break;
      }
      int thing = order.node[rank];
      if (isAccount(thing) && above[thing] >= 0) {
        next = leave(above[thing], next, position, children);
      }
      position[thing] = next;
      node[next] = things[thing];
      parent[next] = above[thing] < 0 ? -1 : position[above[thing]];
      note(things[thing], next);
      next++;
      open.push(thing);
    }
    if (next != total) {
      throw new IllegalStateException("Impossible state: " + next + " positions of " + total);
    }
  }

  private boolean isAccount(int thing) {
    return (things[thing] & ResourceSpace.ACCOUNT) == ResourceSpace.ACCOUNT;
  }

  private int close(int thing, int from, int[] position, int[] children) {
    int next = isAccount(thing) ? leave(thing, from, position, children) : from;
    if (!isAccount(thing)) {
      next = free(next, gap(thing, children[thing]), position[thing]);
    }
    end[position[thing]] = next;
    return next;
  }

  /** An account's gap, once. */
  private int leave(int thing, int from, int[] position, int[] children) {
    int account = things[thing] & ~ResourceSpace.ACCOUNT;
    if (ownEnd[account] > 0) {
      return from;
    }
    int next = free(from, gap(thing, children[thing]), position[thing]);
    ownEnd[account] = next;
    return next;
  }

  private int free(int from, int many, int whose) {
    for (int at = from; at < from + many; at++) {
      node[at] = -1;
      parent[at] = whose;
      end[at] = at + 1;
    }
    return from + many;
  }

  private void note(int thing, int at) {
    int number = thing & ~ResourceSpace.ACCOUNT;
    switch (thing & ResourceSpace.ACCOUNT) {
      case ResourceSpace.RESOURCE -> resourceAt[number] = at;
      case ResourceSpace.GROUP -> groupAt[number] = at;
      case ResourceSpace.UNIT -> unitAt[number] = at;
      default -> accountAt[number] = at;
    }
  }

  /** {@return by position: pairs of lane and count of what is in a subtree}, null for a leaf */
  static int[][] kinds(ResourceSpace places, Rights rights) {
    int[][] kinds = new int[places.count][];
    for (int at = places.count - 1; at >= 0; at--) {
      if (places.isThere(at) && kinds[at] != null) {
        kinds[at] = WordCounts.plus(kinds[at], rights, places.type[at], 1);
      }
      int up = places.parent[at];
      if (places.isThere(at) && up >= 0) {
        int[] sum = kinds[up] == null ? Directory.NONE : kinds[up];
        kinds[up] =
            kinds[at] == null
                ? WordCounts.plus(sum, rights, places.type[at], 1)
                : WordCounts.plus(sum, kinds[at]);
      }
    }
    return kinds;
  }

  static int[][] ofType(ResourceSpace places, Rights rights) {
    IntList[] lists = new IntList[rights.types.size()];
    Arrays.setAll(lists, _ -> new IntList());
    for (int at = 0; at < places.count; at++) {
      if (places.isThere(at)) {
        lists[places.type[at]].add(at);
      }
    }
    return Arrays.stream(lists).map(IntList::toArray).toArray(int[][]::new);
  }

  static Table<int[]> owned(ResourceSpace places, int principals) {
    IntList[] lists = new IntList[principals];
    for (int at = 0; at < places.count; at++) {
      if (places.owner[at] >= 0) {
        int p = places.owner[at];
        if (lists[p] == null) {
          lists[p] = new IntList();
        }
        lists[p].add(at);
      }
    }
    return DirectoryBuild.closed(lists);
  }

  /** By unit: the positions of that unit or below, each naming its account's resource. */
  static Table<Spans> inUnit(ResourceSpace places, Directory directory) {
    Spans.Builder[] spans = new Spans.Builder[places.unitAt.length];
    int[] parents = unitParents(directory);
    for (int at = 0; at < places.count; at++) {
      for (int u = places.unit[at]; u >= 0; u = parents[u]) {
        if (spans[u] == null) {
          spans[u] = new Spans.Builder();
        }
        spans[u].add(at, at + 1, places.accountAt[places.account[at]]);
      }
    }
    Spans[] built = new Spans[spans.length];
    for (int u = 0; u < built.length; u++) {
      built[u] = spans[u] == null ? Spans.EMPTY : spans[u].build();
    }
    return Table.of(built);
  }

  public static int[] unitParents(Directory directory) {
    int[] parents = new int[directory.catalogue.units().numbers()];
    for (int u = 0; u < parents.length; u++) {
      UnitKey up = directory.catalogue.units().the(u).parent();
      parents[u] = up == null ? -1 : directory.catalogue.units().require(up);
    }
    return parents;
  }
}
