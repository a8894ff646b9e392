package mandala.core.compiled.space;

import java.util.Arrays;
import mandala.core.present.Areas;

/**
 * In which area of its account a position lies ({@link Areas}): found by going up, and remembered.
 * Threads that find the same at once write the same.
 */
public final class AreaIndex {

  private static final int UNKNOWN = -1;

  private final ResourceSpace places;
  private final int[] known;

  public AreaIndex(ResourceSpace places) {
    this.places = places;
    known = new int[places.count];
    Arrays.fill(known, UNKNOWN);
  }

  /**
   * {@return the top of the area}: what hangs directly under the account or a unit of it; for the
   * account itself, its units and groups, the account's position
   */
  public int top(int position) {
    if (places.implicit(position)) {
      return places.accountAt[places.account[position]];
    }
    int at = position;
    while (known[at] == UNKNOWN && !places.implicit(places.parent[at])) {
      at = places.parent[at];
    }
    int top = known[at] == UNKNOWN ? at : known[at];
    for (int each = position; each != at; each = places.parent[each]) {
      known[each] = top;
    }
    known[at] = top;
    return top;
  }
}
