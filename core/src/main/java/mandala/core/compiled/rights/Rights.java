package mandala.core.compiled.rights;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Deque;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import mandala.core.compiled.directory.Directory;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.ResourceType;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.TypeKey;
import mandala.core.rule.Exposure;
import mandala.core.table.IntList;

/**
 * Permissions by resource type (section 3).
 *
 * <p>The permissions of a type are bits of a few words, mostly one. A row is one array with the
 * words of all types, those of type t at {@code offset[t]}: the mask that a thing gives on a
 * resource is read at the resource's type. A place in a row is a lane.
 */
public final class Rights {

  public final List<Permission> permissions;
  public final Map<PermissionKey, Integer> permissionId;
  final Map<TypeKey, Integer> typeId = new HashMap<>();
  public final List<TypeKey> types = new ArrayList<>();

  /** By type: its permissions, in the order of their bits. */
  public final int[][] ofType;

  /** By type and permission: the bit, or -1 where the permission does not apply. */
  public final int[][] bit;

  /** By type: where its words begin in a row, and how many there are. */
  public final int[] offset;

  public final int[] words;
  public final int rowLength;
  final int mostWords;

  /** The row of all permissions of class view; of all that may be delegated. */
  public final long[] viewRow;

  public final long[] delegableRow;

  /** A row of nothing. */
  public final long[] noRow;

  /** By permission: what it implies, and what implies it, itself included. */
  final BitSet[] down;

  final BitSet[] up;

  /** By permission: its gates; what it or anything it implies requires (section 6). */
  public final int[][] gates;

  /** By type: its permissions that have gates, each after those that are its gates. */
  public final int[][] gated;

  /** The types that accounts, units and groups have as resources. */
  public final int accountType;

  public final int unitType;
  public final int groupType;

  /** By lane (a word of a row): the type whose permissions it holds. */
  public final int[] laneType;

  /** By lane: how gates among its own bits open, and which bits ask for more. */
  public final GateTable[] gatesOfLane;

  /** By permission: one lane it has a bit in, or -1 where it applies to nothing, and the bit. */
  public final int[] anyLane;

  public final long[] anyBit;

  /** By class, by lane: its bits. By risk, by lane: its bits. */
  public final long[][] classMask;

  public final long[][] riskMask;

  /** By type: its lanes, each paired with 1 as in {@link WordCounts}. */
  public final int[][] lanesOfType;

  /** By lane: whether it has far gates, or may be one. */
  public final boolean[] farLane;

  /** Folded lanes: with bits that have far gates; with bits that are; both. */
  private final long gatedLanes;

  private final long gatingLanes;
  private final long connectedLanes;

  /** The bits that are far gates, or gates of these in turn. */
  private final long[] farGateRow;

  public Rights(Catalogue model) {
    permissions = List.copyOf(model.permissions().values());
    permissionId = new HashMap<>();
    permissions.forEach(it -> permissionId.put(it.key(), permissionId.size()));
    for (TypeKey type : model.types()) {
      typeId.put(type, types.size());
      types.add(type);
    }
    ofType = new int[types.size()][];
    bit = new int[types.size()][];
    offset = new int[types.size()];
    words = new int[types.size()];
    rowLength = layOut();
    noRow = new long[rowLength];
    mostWords = Arrays.stream(words).max().orElse(0);
    down = new BitSet[permissions.size()];
    up = new BitSet[permissions.size()];
    close();
    gates = new int[permissions.size()][];
    for (int p = 0; p < gates.length; p++) {
      BitSet required = new BitSet();
      down[p].stream()
          .forEach(q -> permissions.get(q).requires().forEach(it -> required.set(permission(it))));
      gates[p] = required.stream().toArray();
    }
    gated = gatedByType();
    accountType = type(ResourceType.ACCOUNT);
    unitType = type(ResourceType.UNIT);
    groupType = type(ResourceType.GROUP);
    laneType = new int[rowLength];
    gatesOfLane = new GateTable[rowLength];
    for (int t = 0; t < words.length; t++) {
      for (int w = 0; w < words[t]; w++) {
        laneType[offset[t] + w] = t;
        gatesOfLane[offset[t] + w] = new GateTable(this, t, w);
      }
    }
    anyLane = new int[permissions.size()];
    anyBit = new long[permissions.size()];
    Arrays.fill(anyLane, -1);
    for (int t = 0; t < types.size(); t++) {
      for (int b = 0; b < ofType[t].length; b++) {
        anyLane[ofType[t][b]] = offset[t] + (b >> 6);
        anyBit[ofType[t][b]] = 1L << b;
      }
    }
    lanesOfType = new int[words.length][];
    for (int t = 0; t < words.length; t++) {
      lanesOfType[t] = WordCounts.plus(Directory.NONE, this, t, 1);
    }
    farLane = new boolean[rowLength];
    farGateRow = row(farGates());
    long withGates = 0;
    long withGated = 0;
    for (int lane = 0; lane < rowLength; lane++) {
      withGates |= gatesOfLane[lane].far != 0 ? fold(lane) : 0;
      withGated |= farGateRow[lane] != 0 ? fold(lane) : 0;
      farLane[lane] = gatesOfLane[lane].far != 0 || farGateRow[lane] != 0;
    }
    gatedLanes = withGates;
    gatingLanes = withGated;
    connectedLanes = gatedLanes | gatingLanes;
    classMask = new long[AccessClass.values().length][];
    for (AccessClass each : AccessClass.values()) {
      classMask[each.ordinal()] = row(where(p -> permissions.get(p).accessClass() == each));
    }
    riskMask = new long[Permission.Risk.values().length][];
    for (Permission.Risk each : Permission.Risk.values()) {
      riskMask[each.ordinal()] = row(where(p -> permissions.get(p).risk() == each));
    }
    viewRow = row(where(p -> permissions.get(p).accessClass() == AccessClass.VIEW));
    delegableRow = row(where(p -> permissions.get(p).mayBeDelegated()));
  }

  /** {@return what a permission implies, however far, itself included} */
  public IntStream implied(int permission) {
    return down[permission].stream();
  }

  /** {@return a lane as a bit of a word}; of many lanes some share a bit */
  public static long fold(int lane) {
    return 1L << lane;
  }

  /**
   * {@return folded lanes, with those that must be known to tell what is usable in them}
   *
   * @param gates whether what differs in them are gates too, so that what they gate differs
   */
  public long withGates(long lanes, boolean gates) {
    return gates ? lanes | connectedLanes : (lanes & gatedLanes) != 0 ? lanes | gatingLanes : lanes;
  }

  /** {@return whether a row has a bit that is a gate far from what it gates} */
  public boolean hasFarGate(long[] row) {
    for (int lane = 0; lane < rowLength; lane++) {
      if ((row[lane] & farGateRow[lane]) != 0) {
        return true;
      }
    }
    return false;
  }

  /** {@return whether any permission of a class applies to a type} */
  public boolean applies(int type, int accessClass) {
    for (int w = 0; w < words[type]; w++) {
      if (classMask[accessClass][offset[type] + w] != 0) {
        return true;
      }
    }
    return false;
  }

  /** Every gate of a permission that has some far gate, and their gates in turn. */
  private BitSet farGates() {
    BitSet found = new BitSet();
    Deque<Integer> open = new ArrayDeque<>();
    for (int p = 0; p < permissions.size(); p++) {
      for (int t = 0; t < words.length; t++) {
        int at = bit[t][p];
        if (at >= 0 && (gatesOfLane[offset[t] + (at >> 6)].far & 1L << at) != 0) {
          open.push(p);
        }
      }
    }
    while (!open.isEmpty()) {
      for (int gate : gates[open.pop()]) {
        if (!found.get(gate)) {
          found.set(gate);
          open.push(gate);
        }
      }
    }
    return found;
  }

  /** {@return the number of a type that a checked model must have} */
  public int type(TypeKey key) {
    Integer id = typeId.get(key);
    if (id == null) {
      throw new IllegalStateException("Impossible state: a checked model lacks type " + key);
    }
    return id;
  }

  /** {@return the number of a permission that a checked model must have} */
  int permission(PermissionKey key) {
    Integer id = permissionId.get(key);
    if (id == null) {
      throw new IllegalStateException("Impossible state: a checked model lacks " + key);
    }
    return id;
  }

  private int layOut() {
    List<IntList> lists = new ArrayList<>();
    types.forEach(_ -> lists.add(new IntList()));
    for (int p = 0; p < permissions.size(); p++) {
      int id = p;
      permissions.get(p).on().stream().distinct().forEach(type -> lists.get(type(type)).add(id));
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
          permissions.get(next).implies().forEach(it -> open.add(permission(it)));
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
      for (TypeKey type : permissions.get(p).on()) {
        int t = type(type);
        int b = bit[t][p];
        row[offset[t] + (b >> 6)] |= 1L << b;
      }
    }
    return row;
  }

  /** {@return what some rights on one resource weigh} (section 12), as bits of a lane */
  public long weight(int lane, long bits) {
    long sum = 0;
    for (Permission.Risk risk : Permission.Risk.values()) {
      sum += (long) Exposure.of(risk) * Long.bitCount(bits & riskMask[risk.ordinal()][lane]);
    }
    return sum;
  }
}
