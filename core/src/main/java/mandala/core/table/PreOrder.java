package mandala.core.table;

import java.util.Arrays;

/**
 * A forest numbered in pre-order: a node and all below it are the ranks from its own up to, not
 * including, its end. Children keep the order of their numbers. Linear; no recursion.
 */
public final class PreOrder {

  /** By node: its rank. */
  public final int[] rank;

  /** By rank: the node. */
  public final int[] node;

  /** By rank: where the subtree ends, exclusive. */
  public final int[] end;

  private PreOrder(int size) {
    rank = new int[size];
    node = new int[size];
    end = new int[size];
  }

  /**
   * {@return the order of a forest}
   *
   * @param parent by node: the node above, or -1; acyclic
   */
  public static PreOrder of(int[] parent) {
    int size = parent.length;
    int[] firstChild = new int[size + 1];
    int[] nextSibling = new int[size];
    Arrays.fill(firstChild, -1);
    for (int child = size - 1; child >= 0; child--) {
      int slot = parent[child] < 0 ? size : parent[child];
      nextSibling[child] = firstChild[slot];
      firstChild[slot] = child;
    }
    PreOrder order = new PreOrder(size);
    int next = 0;
    int at = firstChild[size];
    while (at >= 0) {
      order.rank[at] = next;
      order.node[next++] = at;
      if (firstChild[at] >= 0) {
        at = firstChild[at];
        continue;
      }
      order.end[order.rank[at]] = next;
      while (at >= 0 && nextSibling[at] < 0) {
        at = parent[at];
        if (at >= 0) {
          order.end[order.rank[at]] = next;
        }
      }
      at = at < 0 ? -1 : nextSibling[at];
    }
    if (next != size) {
      throw new IllegalStateException("Impossible state: a checked forest has a cycle");
    }
    return order;
  }
}
