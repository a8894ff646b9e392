package mandala.core.model;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a job needs.
 *
 * @param owners who answers for it (section 10)
 */
public record Role(
    Key.Role key,
    About about,
    Key.@Nullable Account account,
    @Nullable String code,
    Key.@Nullable Role basedOn,
    boolean retired,
    List<Key.PermissionSet> sets,
    List<Key.Role> inherits,
    boolean requiresMfa,
    List<Key.Role> prerequisites,
    @Nullable Integer minHolders,
    @Nullable Integer maxHolders,
    List<Key.Principal> owners)
    implements Thing {

  /** Copies its lists. */
  public Role {
    sets = List.copyOf(sets);
    inherits = List.copyOf(inherits);
    prerequisites = List.copyOf(prerequisites);
    owners = List.copyOf(owners);
  }
}
