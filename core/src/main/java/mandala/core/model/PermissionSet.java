package mandala.core.model;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** A named bundle of allowed and denied permissions. */
public record PermissionSet(
    Key.PermissionSet key,
    About about,
    Key.@Nullable Account account,
    List<Key.Permission> allow,
    List<Key.Permission> deny,
    List<Key.PermissionSet> includes)
    implements Thing {

  /** Copies its lists. */
  public PermissionSet {
    allow = List.copyOf(allow);
    deny = List.copyOf(deny);
    includes = List.copyOf(includes);
  }
}
