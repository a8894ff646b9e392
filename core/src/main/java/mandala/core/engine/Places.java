package mandala.core.engine;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Key;
import mandala.core.model.Resource;
import mandala.core.model.ResourceType;
import mandala.core.model.Unit;

/**
 * All resources, implicit ones included, in one pre-order. Under an account its own resources come
 * first and its sub-accounts last, so that what is in an account alone is one span too.
 *
 * <p>Positions and ids are this snapshot's own and never leave the package.
 */
final class Places {

  final int count;
  final Key.Resource[] key;
  final int[] end;
  final int[] parent;
  final int[] type;
  final int[] account;
  final int[] seal;
  final int[] unit;
  final int[] owner;
  final int[] labels;
  final List<Map<String, String>> labelSets = new ArrayList<>();

  /** By account: the position of its resource, and where its own resources end. */
  final int[] accountAt;

  final int[] ownEnd;

  /** Positions by unit rank, then position; and by owner's rank among managers, then position. */
  final int[] byUnit;

  final int[] byOwner;

  private final Map<Key.Resource, Integer> position;

  Places(Catalogue model, Directory directory, Map<Key.Type, Integer> types) {
    List<Key.Resource> nodes = new ArrayList<>();
    model.units().values().forEach((Unit it) -> nodes.add(Key.Resource.of(it.key())));
    model.groups().values().forEach((Group it) -> nodes.add(Key.Resource.of(it.key())));
    nodes.addAll(model.resources().keySet());
    model.accounts().values().forEach((Account it) -> nodes.add(Key.Resource.of(it.key())));
    count = nodes.size();
    Map<Key.Resource, Integer> number = HashMap.newHashMap(count);
    for (int i = 0; i < count; i++) {
      number.put(nodes.get(i), i);
    }
    int[] above = new int[count];
    for (int i = 0; i < count; i++) {
      Key.Resource up = model.parentOf(nodes.get(i));
      above[i] = up == null ? -1 : Snapshot.id(number, up);
    }
    PreOrder order = PreOrder.of(above);
    key = new Key.Resource[count];
    position = HashMap.newHashMap(count);
    for (int at = 0; at < count; at++) {
      key[at] = nodes.get(order.node[at]);
      position.put(key[at], at);
    }
    end = order.end;
    parent = new int[count];
    type = new int[count];
    account = new int[count];
    seal = new int[count];
    unit = new int[count];
    owner = new int[count];
    labels = new int[count];
    accountAt = new int[directory.accounts.size()];
    ownEnd = new int[directory.accounts.size()];
    Map<Map<String, String>, Integer> labelIds = new HashMap<>();
    for (int at = 0; at < count; at++) {
      int up = above[order.node[at]];
      parent[at] = up < 0 ? -1 : order.rank[up];
      fill(at, model, directory, types, labelIds);
    }
    for (int a = 0; a < ownEnd.length; a++) {
      ownEnd[a] = accountAt[a];
    }
    for (int at = 0; at < count; at++) {
      ownEnd[account[at]] = at + 1;
    }
    byUnit = sorted(unit, directory.unitOrder.rank);
    byOwner = sorted(owner, directory.managerOrder.rank);
  }

  private void fill(
      int at,
      Catalogue model,
      Directory directory,
      Map<Key.Type, Integer> types,
      Map<Map<String, String>, Integer> labelIds) {
    Key.Resource it = key[at];
    int up = parent[at];
    Key.Account home = model.accountOf(it);
    if (home == null) {
      throw new IllegalStateException("Impossible state: no account for " + it);
    }
    account[at] = Snapshot.id(directory.accountId, home);
    type[at] = Snapshot.id(types, model.typeOf(it));
    seal[at] = model.isSealed(it) ? at : up < 0 ? -1 : seal[up];
    Key.Principal whose = model.ownerOf(it);
    owner[at] = whose == null ? -1 : Snapshot.id(directory.principalId, whose);
    boolean isAccount = model.typeOf(it).equals(ResourceType.ACCOUNT);
    if (isAccount) {
      accountAt[account[at]] = at;
    }
    unit[at] = isAccount || up < 0 ? -1 : unit[up];
    if (it.value().startsWith("unit:")) {
      unit[at] = Snapshot.id(directory.unitId, new Key.Unit(it.value().substring(5)));
    }
    Map<String, String> effective = up < 0 ? Map.of() : labelSets.get(labels[up]);
    Resource listed = model.resources().get(it);
    if (listed != null) {
      if (listed.unit() != null) {
        unit[at] = Snapshot.id(directory.unitId, listed.unit());
      }
      if (!listed.labels().isEmpty()) {
        Map<String, String> overlaid = new TreeMap<>(effective);
        overlaid.putAll(listed.labels());
        effective = overlaid;
      }
    }
    Integer known = labelIds.get(effective);
    if (known == null) {
      known = labelSets.size();
      labelIds.put(effective, known);
      labelSets.add(effective);
    }
    labels[at] = known;
  }

  /** Positions that have a value, ordered by the value's rank, then by position. */
  private int[] sorted(int[] value, int[] rank) {
    long[] packed = new long[count];
    int size = 0;
    for (int at = 0; at < count; at++) {
      if (value[at] >= 0) {
        packed[size++] = ((long) rank[value[at]] << 32) | at;
      }
    }
    Arrays.sort(packed, 0, size);
    int[] positions = new int[size];
    for (int i = 0; i < size; i++) {
      positions[i] = (int) packed[i];
    }
    return positions;
  }

  /** {@return the position of a resource, or -1 where there is none} */
  int find(Key.Resource resource) {
    Integer at = position.get(resource);
    return at == null ? -1 : at;
  }

  Spans tree(int at) {
    return Spans.of(at, end[at], at);
  }

  /** {@return the resources of an account alone} */
  Spans own(int accountId) {
    return Spans.of(accountAt[accountId], ownEnd[accountId], accountAt[accountId]);
  }

  /** {@return an account and all below it, naming nothing} */
  Spans under(int accountId) {
    int at = accountAt[accountId];
    return Spans.of(at, end[at], Spans.NO_FLOOR);
  }
}
