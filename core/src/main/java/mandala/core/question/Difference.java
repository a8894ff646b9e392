package mandala.core.question;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;

/**
 * What one access has that another has not: rights, pairs of permission and resource that are
 * allowed. Gained is what only the second has, lost what only the first has.
 *
 * @param gained how many rights are gained
 * @param lost how many are lost
 * @param lines by account and permission, both by key; only those in which something differs
 * @param areas the same by area of the resource tree; by account and key, the account itself first
 */
public record Difference(long gained, long lost, List<Line> lines, List<Area> areas) {

  /** Copies its lists. */
  public Difference {
    lines = List.copyOf(lines);
    areas = List.copyOf(areas);
  }

  /** What differs of one permission in one account, sub-accounts apart. */
  public record Line(AccountKey account, PermissionKey permission, long gained, long lost) {}

  /**
   * What differs in one area, as the figure has them.
   *
   * @param top its topmost resource; of the account itself with its units and groups, the account
   * @param organisation whether it is the account itself with its units and groups
   */
  public record Area(
      ResourceKey top, boolean organisation, AccountKey account, long gained, long lost) {}

  /** {@return whether nothing differs} */
  public boolean none() {
    return gained == 0 && lost == 0;
  }
}
