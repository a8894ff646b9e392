package mandala.core.excess;

import java.util.Arrays;
import mandala.core.compiled.Snapshot;
import mandala.core.rule.Exposure;
import mandala.core.table.IntList;

/**
 * A set of rights of one snapshot, as bits by position; made once and used for one person after the
 * other. For one thread.
 */
final class RightsSet {

  private final Snapshot it;

  /** By word of a type's row, by position: the rights. */
  private final long[][] bits;

  /** Where there are any: pairs of position and word. */
  private final IntList touched = new IntList();

  /** By number of the permission: how many of its rights are in it. */
  private final long[] ofPermission;

  private long size;
  private long exposure;

  RightsSet(Snapshot it) {
    this.it = it;
    int words = 1;
    for (int each : it.rights.words) {
      words = Math.max(words, each);
    }
    bits = new long[words][it.places.count];
    ofPermission = new long[it.rights.permissions.size()];
  }

  /** Empties it. */
  void clear() {
    for (int i = 0; i < touched.size(); i += 2) {
      bits[touched.get(i + 1)][touched.get(i)] = 0;
    }
    touched.clear();
    Arrays.fill(ofPermission, 0);
    size = 0;
    exposure = 0;
  }

  /**
   * Adds a right that is not in it.
   *
   * @param bit of the type of the position
   */
  void add(int position, int bit) {
    long[] word = bits[bit >> 6];
    long one = 1L << bit;
    if (word[position] == 0) {
      touched.add(position);
      touched.add(bit >> 6);
    }
    word[position] |= one;
    size++;
    int permission = it.rights.ofType[it.places.type[position]][bit];
    ofPermission[permission]++;
    exposure += Exposure.of(it.rights.permissions.get(permission).risk());
  }

  /** {@return the rights on a position in one word of its type's row} */
  long at(int position, int word) {
    return bits[word][position];
  }

  /** Takes the rights on one position in one word of its type's row. */
  interface Visitor {
    void at(int position, int word, long rights);
  }

  /** Tells all rights, in no order. */
  void each(Visitor visitor) {
    for (int i = 0; i < touched.size(); i += 2) {
      int position = touched.get(i);
      int word = touched.get(i + 1);
      visitor.at(position, word, bits[word][position]);
    }
  }

  /** {@return how many rights of a permission are in it} */
  long of(int permission) {
    return ofPermission[permission];
  }

  long size() {
    return size;
  }

  /** {@return what all of it weighs} */
  long exposure() {
    return exposure;
  }
}
