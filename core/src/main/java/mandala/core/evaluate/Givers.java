package mandala.core.evaluate;

import mandala.core.table.IntList;

/**
 * The assignments and bridges that give a principal one right, whether or not they are in force and
 * activated. Filled by {@link SingleDecision#givers}.
 */
public final class Givers {

  private static final int NOW = 1;
  private static final int FREE = 2;

  private final IntList refs = new IntList();
  private final IntList flags = new IntList();

  void clear() {
    refs.clear();
    flags.clear();
  }

  void add(int ref, boolean now, boolean free) {
    refs.add(ref);
    flags.add((now ? NOW : 0) | (free ? FREE : 0));
  }

  /** {@return how many there are}; one of several clauses may be there more than once */
  public int size() {
    return refs.size();
  }

  /** {@return the number of an assignment, or the complement of a bridge's} */
  public int ref(int index) {
    return refs.get(index);
  }

  /** {@return whether it is in force, and activated where it must be} */
  public boolean now(int index) {
    return (flags.get(index) & NOW) != 0;
  }

  /** {@return whether it asks for no second factor} */
  public boolean free(int index) {
    return (flags.get(index) & FREE) != 0;
  }
}
