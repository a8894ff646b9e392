package mandala.core.shrink;

import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/**
 * Rights as cells: a position in the upper half, a permission in the lower. What people need of one
 * assignment, as a table of places and permissions.
 */
final class Cells {

  /** By person: the cells that it needs of the assignment. */
  private final Map<Integer, Set<Long>> needed = new LinkedHashMap<>();

  static long cell(int permission, int position) {
    return (long) position << 32 | permission;
  }

  static int position(long cell) {
    return (int) (cell >>> 32);
  }

  static int permission(long cell) {
    return (int) cell;
  }

  void add(int person, long cell) {
    needed.computeIfAbsent(person, _ -> new HashSet<>()).add(cell);
  }

  boolean has(long cell) {
    return needed.values().stream().anyMatch(it -> it.contains(cell));
  }

  Set<Integer> people() {
    return needed.keySet();
  }

  Set<Long> of(int person) {
    return needed.getOrDefault(person, Set.of());
  }

  /** {@return the positions of all cells}, ascending */
  int[] positions() {
    return all().stream().mapToInt(Cells::position).sorted().distinct().toArray();
  }

  /** {@return the permissions of all cells}, ascending */
  int[] permissions() {
    return all().stream().mapToInt(Cells::permission).sorted().distinct().toArray();
  }

  private Set<Long> all() {
    Set<Long> all = new TreeSet<>();
    needed.values().forEach(all::addAll);
    return all;
  }

  /** Cells of some places with the same permissions. */
  record Block(BitSet permissions, BitSet places) {}

  /**
   * {@return cells as blocks of places with the very same permissions}
   *
   * @param permissions what a bit of a block stands for
   * @param positions likewise
   */
  static List<Block> blocks(Iterable<Long> cells, int[] permissions, int[] positions) {
    Map<Integer, BitSet> rows = new HashMap<>();
    for (long cell : cells) {
      rows.computeIfAbsent(Arrays.binarySearch(positions, position(cell)), _ -> new BitSet())
          .set(Arrays.binarySearch(permissions, permission(cell)));
    }
    Map<BitSet, BitSet> blocks = new LinkedHashMap<>();
    rows.forEach((place, row) -> blocks.computeIfAbsent(row, _ -> new BitSet()).set(place));
    return blocks.entrySet().stream().map(it -> new Block(it.getKey(), it.getValue())).toList();
  }
}
