package mandala.core.question;

import java.util.List;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * The facts of a mandala: for each area and class how much is reached and how risky it is. Areas
 * stand in the same order for everyone who is looked at in one account; what is reached in other
 * accounts stands after them.
 */
public record Figure(List<Sector> sectors, long rights) {

  /** Copies its sectors. */
  public Figure {
    sectors = List.copyOf(sectors);
  }

  /**
   * One area.
   *
   * @param top its topmost resource; for the account itself with its units and groups, the account
   * @param organisation whether it is the account itself with its units and groups
   * @param account the account it lies in
   * @param door whether it lies outside of the account looked at
   * @param size how many resources it has
   * @param petals one for each class, in their order
   */
  public record Sector(
      ResourceKey top,
      boolean organisation,
      AccountKey account,
      boolean door,
      int size,
      List<Petal> petals) {
    /** Copies its petals. */
    public Sector {
      petals = List.copyOf(petals);
    }
  }

  /**
   * One class in one area, counted in resources.
   *
   * @param applicable on how many some permission of the class applies
   * @param reached on how many some permission of the class is allowed
   * @param blocked on how many none is allowed and some is blocked
   * @param denied on how many some is denied
   * @param risk the highest risk of what is allowed, or null
   */
  public record Petal(
      Permission.AccessClass accessClass,
      int applicable,
      int reached,
      int blocked,
      int denied,
      Permission.@Nullable Risk risk) {}
}
