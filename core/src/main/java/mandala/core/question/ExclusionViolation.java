package mandala.core.question;

import java.util.List;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;

/**
 * A principal takes more sides of an exclusion than it may (section 8).
 *
 * @param where the first resource on which it does; the resource of the account where sides meet by
 *     account; where they meet anywhere, the first resource on which it takes the first side
 * @param sides the sides taken there, from 0, ascending
 * @param many on how many resources, or in how many accounts; 1 for anywhere
 */
public record ExclusionViolation(
    PrincipalKey principal, ResourceKey where, List<Integer> sides, int many) {

  /** Copies its sides. */
  public ExclusionViolation {
    sides = List.copyOf(sides);
  }
}
