package mandala.core.question;

import java.util.List;
import java.util.Map;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;

/**
 * A part of the resource tree as a row: folded where everything in it is alike, else with what
 * differs below it.
 *
 * @param shape what the row stands for
 * @param top the topmost resource; of several alike the first
 * @param account the account it lies in
 * @param members for several alike, their tops; else empty
 * @param counts how many resources it has of each type, by type in the model's order
 * @param sealed whether the top is sealed
 * @param cells one for each permission that applies to anything in it, in one fixed order
 * @param below the regions within, where they differ; else empty. They divide the region: each
 *     resource of it is in exactly one
 * @param more whether there are regions within that were not drawn up
 */
public record Region(
    Shape shape,
    ResourceKey top,
    AccountKey account,
    List<ResourceKey> members,
    Map<TypeKey, Integer> counts,
    boolean sealed,
    List<Cell> cells,
    List<Region> below,
    boolean more) {

  /** What a row stands for. */
  public enum Shape {
    /** A resource and all below it. */
    TREE,
    /** A resource alone, of which what lies below is told in rows of its own. */
    ITSELF,
    /** An account and all below it. */
    ACCOUNT,
    /** An account itself with its units and groups. */
    ORGANISATION,
    /** Several neighbours, with all below them, that are alike. */
    ALIKE
  }

  /**
   * One permission in a region, counted in resources.
   *
   * @param applicable to how many it applies
   * @param sample a resource that has the strongest verdict found: allowed, blocked, denied, none
   */
  public record Cell(
      PermissionKey permission,
      int applicable,
      int allowed,
      int blocked,
      int denied,
      ResourceKey sample) {}

  /** {@return whether anything in it is allowed, blocked or denied} */
  public boolean held() {
    return cells.stream().anyMatch(cell -> cell.allowed + cell.blocked + cell.denied > 0);
  }
}
