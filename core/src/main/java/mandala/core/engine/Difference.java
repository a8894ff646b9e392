package mandala.core.engine;

import java.util.List;
import mandala.core.model.Key;

/**
 * What one access has that another has not: rights, pairs of permission and resource that are
 * allowed. Gained is what only the second has, lost what only the first has.
 *
 * @param gained how many rights are gained
 * @param lost how many are lost
 * @param lines by account and permission, both by key; only those in which something differs
 */
public record Difference(long gained, long lost, List<Line> lines) {

  /** Copies its lines. */
  public Difference {
    lines = List.copyOf(lines);
  }

  /** What differs of one permission in one account, sub-accounts apart. */
  public record Line(Key.Account account, Key.Permission permission, long gained, long lost) {}

  /** {@return whether nothing differs} */
  public boolean none() {
    return gained == 0 && lost == 0;
  }
}
