package mandala.core.question;

import java.util.List;
import mandala.core.model.key.ResourceKey;

/**
 * On what some permissions may be given by a scope, seals aside and for nobody in particular.
 *
 * @param places how many resources that one of the permissions applies to
 * @param exposure what all these rights weigh together (section 12)
 * @param first the first of the resources, in the order of the tree within each type
 */
public record ScopeReach(int places, long exposure, List<ResourceKey> first) {
  /** Copies its resources. */
  public ScopeReach {
    first = List.copyOf(first);
  }
}
