package mandala.core.question;

import java.util.List;
import mandala.core.model.key.ResourceKey;

/**
 * What a scope covers, seals aside.
 *
 * @param count how many resources, relative terms covering whatever they might
 * @param first the first of them, in the order of the tree
 * @param all how many resources there are
 * @param sealedOff how many of them lie behind a seal that no clause reaches into
 */
public record CoveredResources(int count, List<ResourceKey> first, int all, int sealedOff) {
  /** Copies its resources. */
  public CoveredResources {
    first = List.copyOf(first);
  }
}
