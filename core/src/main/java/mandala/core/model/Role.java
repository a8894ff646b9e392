package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/**
 * What a job needs.
 *
 * @param owners who answers for it (section 10)
 */
public record Role(
    RoleKey key,
    About about,
    @Nullable AccountKey account,
    @Nullable String code,
    @Nullable RoleKey basedOn,
    boolean retired,
    List<PermissionSetKey> sets,
    List<RoleKey> inherits,
    boolean requiresMfa,
    List<RoleKey> prerequisites,
    @Nullable Integer minHolders,
    @Nullable Integer maxHolders,
    List<PrincipalKey> owners)
    implements Thing {

  /** Copies its lists. */
  public Role {
    sets = List.copyOf(sets);
    inherits = List.copyOf(inherits);
    prerequisites = List.copyOf(prerequisites);
    owners = List.copyOf(owners);
  }
}
