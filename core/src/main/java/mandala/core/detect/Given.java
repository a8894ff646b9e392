package mandala.core.detect;

import java.util.HashSet;
import java.util.Set;
import mandala.core.evaluate.PermissionReach;
import mandala.core.model.Permission;
import mandala.core.model.key.PermissionKey;
import mandala.core.shrink.Contents;

/** What a role, a set or a permission gives, worked out once for all assignments of it. */
final class Given {

  final Contents.Content content;

  /** What it allows, and what that implies. */
  final Set<PermissionKey> permissions;

  /** The highest of them. */
  final Permission.Risk risk;

  /** On what all of them may be given by scopes. */
  final PermissionReach reach;

  Given(Contents.Content content, Basis basis) {
    this.content = content;
    Set<PermissionKey> all = new HashSet<>(content.free());
    all.addAll(content.factor());
    all.removeAll(content.deny());
    permissions = Set.copyOf(all);
    risk = basis.risk(all);
    reach = basis.engine.reach(all);
  }
}
