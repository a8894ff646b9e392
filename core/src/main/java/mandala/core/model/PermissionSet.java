package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import org.jspecify.annotations.Nullable;

/** A named bundle of allowed and denied permissions. */
public record PermissionSet(
    PermissionSetKey key,
    About about,
    @Nullable AccountKey account,
    List<PermissionKey> allow,
    List<PermissionKey> deny,
    List<PermissionSetKey> includes)
    implements Thing {

  /** Copies its lists. */
  public PermissionSet {
    allow = List.copyOf(allow);
    deny = List.copyOf(deny);
    includes = List.copyOf(includes);
  }
}
