package mandala.core.change;

import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;

/** What a set lists with all that it includes, as it is written: what that implies is left out. */
public final class ListedPermissions {

  private final Set<PermissionKey> allowed = new LinkedHashSet<>();
  private final Set<PermissionKey> denied = new LinkedHashSet<>();

  private ListedPermissions() {}

  static ListedPermissions of(PermissionSetKey key, Catalogue in) {
    ListedPermissions all = new ListedPermissions();
    all.add(key, in, new HashSet<>());
    return all;
  }

  /** {@return what a role allows by its own sets}, whatever they deny, and whatever it inherits */
  public static Set<PermissionKey> allowedBy(Role role, Catalogue in) {
    ListedPermissions all = new ListedPermissions();
    role.sets().forEach(it -> all.add(it, in, new HashSet<>()));
    return all.allowed;
  }

  private void add(PermissionSetKey key, Catalogue in, Set<PermissionSetKey> seen) {
    PermissionSet it = in.sets().get(key);
    if (it != null && seen.add(key)) {
      allowed.addAll(it.allow());
      denied.addAll(it.deny());
      it.includes().forEach(each -> add(each, in, seen));
    }
  }

  Set<PermissionKey> allowed() {
    return allowed;
  }

  Set<PermissionKey> denied() {
    return denied;
  }
}
