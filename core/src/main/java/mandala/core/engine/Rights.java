package mandala.core.engine;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Key;
import mandala.core.model.Permission;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;

/**
 * Permissions by resource type, and what roles, sets and permissions give (section 3).
 *
 * <p>The permissions of a type are bits of a few words. A row is one array with the words of all
 * types, those of type t at {@code offset[t]}: the mask that a thing gives on a resource is read at
 * the resource's type. Closures are taken once for each thing given: allows down, denies up.
 */
final class Rights {

  final List<Permission> permissions;
  final Map<Key.Permission, Integer> permissionId;
  final Map<Key.Type, Integer> typeId = new HashMap<>();
  final List<Key.Type> types = new ArrayList<>();

  /** By type: its permissions, in the order of their bits. */
  final int[][] ofType;

  /** By type and permission: the bit, or -1 where the permission does not apply. */
  final int[][] bit;

  /** By type: where its words begin in a row, and how many there are. */
  final int[] offset;

  final int[] words;
  final int rowLength;
  final int mostWords;

  /** The row of all permissions of class view; of all that may be delegated. */
  final long[] viewRow;

  final long[] delegableRow;

  /** By permission: what it implies, and what implies it, itself included. */
  final BitSet[] down;

  final BitSet[] up;

  /** By permission: its gates; what it or anything it implies requires (section 6). */
  final int[][] gates;

  /** By type: its permissions that have gates, each after those that are its gates. */
  final int[][] gated;

  private final Catalogue model;
  private final Map<Gives, Given> allowed = new HashMap<>();
  private final Map<Key.Permission, Given> denied = new HashMap<>();

  Rights(Catalogue model) {
    this.model = model;
    permissions = List.copyOf(model.permissions().values());
    permissionId = new HashMap<>();
    permissions.forEach(it -> permissionId.put(it.key(), permissionId.size()));
    for (Key.Type type : model.types()) {
      typeId.put(type, types.size());
      types.add(type);
    }
    ofType = new int[types.size()][];
    bit = new int[types.size()][];
    offset = new int[types.size()];
    words = new int[types.size()];
    rowLength = layOut();
    mostWords = Arrays.stream(words).max().orElse(0);
    down = new BitSet[permissions.size()];
    up = new BitSet[permissions.size()];
    close();
    gates = new int[permissions.size()][];
    for (int p = 0; p < gates.length; p++) {
      BitSet required = new BitSet();
      down[p].stream()
          .forEach(q ->
              permissions
                  .get(q)
                  .requires()
                  .forEach(it -> required.set(Snapshot.id(permissionId, it))));
      gates[p] = required.stream().toArray();
    }
    gated = gatedByType();
    viewRow = row(where(p -> permissions.get(p).accessClass() == AccessClass.VIEW));
    delegableRow = row(where(p -> permissions.get(p).mayBeDelegated()));
  }

  private int layOut() {
    List<Ints> lists = new ArrayList<>();
    types.forEach(_ -> lists.add(new Ints()));
    for (int p = 0; p < permissions.size(); p++) {
      int id = p;
      permissions.get(p).on().stream()
          .distinct()
          .forEach(type -> lists.get(Snapshot.id(typeId, type)).add(id));
    }
    int next = 0;
    for (int t = 0; t < types.size(); t++) {
      ofType[t] = lists.get(t).toArray();
      bit[t] = new int[permissions.size()];
      Arrays.fill(bit[t], -1);
      for (int b = 0; b < ofType[t].length; b++) {
        bit[t][ofType[t][b]] = b;
      }
      offset[t] = next;
      words[t] = (ofType[t].length + 63) / 64;
      next += words[t];
    }
    return next;
  }

  private void close() {
    for (int p = 0; p < permissions.size(); p++) {
      up[p] = new BitSet();
    }
    for (int p = 0; p < permissions.size(); p++) {
      BitSet reached = new BitSet();
      Deque<Integer> open = new ArrayDeque<>(List.of(p));
      while (!open.isEmpty()) {
        int next = open.remove();
        if (!reached.get(next)) {
          reached.set(next);
          up[next].set(p);
          permissions.get(next).implies().forEach(it -> open.add(Snapshot.id(permissionId, it)));
        }
      }
      down[p] = reached;
    }
  }

  private int[][] gatedByType() {
    int[] height = new int[permissions.size()];
    Arrays.fill(height, -1);
    for (int p = 0; p < height.length; p++) {
      measure(p, height);
    }
    int[][] result = new int[types.size()][];
    for (int t = 0; t < result.length; t++) {
      result[t] =
          Arrays.stream(ofType[t])
              .filter(p -> gates[p].length > 0)
              .boxed()
              .sorted((a, b) -> Integer.compare(height[a], height[b]))
              .mapToInt(Integer::intValue)
              .toArray();
    }
    return result;
  }

  /** The longest chain of gates below a permission, without recursion. */
  private void measure(int start, int[] height) {
    Deque<Integer> open = new ArrayDeque<>(List.of(start));
    while (!open.isEmpty()) {
      int p = open.peek();
      int most = 0;
      boolean ready = height[p] < 0;
      for (int q : gates[p]) {
        if (height[q] < 0) {
          open.push(q);
          ready = false;
        } else {
          most = Math.max(most, height[q] + 1);
        }
      }
      if (ready) {
        height[p] = most;
      }
      if (height[p] >= 0) {
        open.pop();
      }
    }
  }

  private BitSet where(java.util.function.IntPredicate which) {
    BitSet set = new BitSet();
    for (int p = 0; p < permissions.size(); p++) {
      if (which.test(p)) {
        set.set(p);
      }
    }
    return set;
  }

  /** {@return the row of a set of permissions} */
  long[] row(BitSet set) {
    long[] row = new long[rowLength];
    for (int p = set.nextSetBit(0); p >= 0; p = set.nextSetBit(p + 1)) {
      for (Key.Type type : permissions.get(p).on()) {
        int t = Snapshot.id(typeId, type);
        int b = bit[t][p];
        row[offset[t] + (b >> 6)] |= 1L << b;
      }
    }
    return row;
  }

  /** {@return what a role, a set or a single allowed permission gives} */
  Given given(Gives gives) {
    Given known = allowed.get(gives);
    if (known == null) {
      known = new Given(this, gather(gives));
      allowed.put(gives, known);
    }
    return known;
  }

  /** {@return what assigning something with an effect gives} */
  Given given(Gives gives, Assignment.Effect effect) {
    if (effect == Assignment.Effect.ALLOW || !(gives instanceof Gives.OfPermission(var key))) {
      return given(gives);
    }
    return denied.computeIfAbsent(
        key,
        _ -> {
          Named named = new Named();
          named.deny.set(Snapshot.id(permissionId, key));
          return new Given(this, named);
        });
  }

  /** What is named before closing: allows that need no second factor, all allows, denies. */
  static final class Named {
    final BitSet free = new BitSet();
    final BitSet all = new BitSet();
    final BitSet deny = new BitSet();
  }

  private Named gather(Gives gives) {
    Named named = new Named();
    switch (gives) {
      case Gives.OfRole(Key.Role key) -> role(key, named);
      case Gives.OfSet(Key.PermissionSet key) -> set(key, false, named);
      case Gives.OfPermission(Key.Permission key) -> {
        named.free.set(Snapshot.id(permissionId, key));
        named.all.set(Snapshot.id(permissionId, key));
      }
    }
    return named;
  }

  private record Visit(Key.Role role, boolean mfa) {}

  private void role(Key.Role top, Named named) {
    Map<Visit, Boolean> seen = new HashMap<>();
    Deque<Visit> open = new ArrayDeque<>(List.of(new Visit(top, false)));
    while (!open.isEmpty()) {
      Visit visit = open.remove();
      Role role = model.roles().get(visit.role());
      if (role == null || role.retired() || seen.put(visit, true) != null) {
        continue;
      }
      boolean mfa = visit.mfa() || role.requiresMfa();
      role.sets().forEach(set -> set(set, mfa, named));
      role.inherits().forEach(junior -> open.add(new Visit(junior, mfa)));
    }
  }

  private void set(Key.PermissionSet top, boolean mfa, Named named) {
    Map<Key.PermissionSet, Boolean> seen = new HashMap<>();
    Deque<Key.PermissionSet> open = new ArrayDeque<>(List.of(top));
    while (!open.isEmpty()) {
      Key.PermissionSet key = open.remove();
      PermissionSet set = model.sets().get(key);
      if (set == null || seen.put(key, true) != null) {
        continue;
      }
      for (Key.Permission it : set.allow()) {
        int p = Snapshot.id(permissionId, it);
        named.all.set(p);
        if (!mfa) {
          named.free.set(p);
        }
      }
      set.deny().forEach(it -> named.deny.set(Snapshot.id(permissionId, it)));
      open.addAll(set.includes());
    }
  }
}
