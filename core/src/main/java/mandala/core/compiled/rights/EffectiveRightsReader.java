package mandala.core.compiled.rights;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;

/**
 * Reads what a role, a set or a permission gives (section 3): a walk over junior roles and included
 * sets that notes what is named, and on which way no role asks for a second factor.
 */
public final class EffectiveRightsReader {

  private final Catalogue catalogue;
  private final Rights rights;

  public EffectiveRightsReader(Catalogue catalogue, Rights rights) {
    this.catalogue = catalogue;
    this.rights = rights;
  }

  /** Something given, a single permission to allow or to deny. */
  public record Name(Gives gives, boolean deny) {}

  public EffectiveRights read(Name name) {
    EffectiveRights.Named named = new EffectiveRights.Named();
    switch (name.gives()) {
      case Gives.OfRole(RoleKey key) -> role(key, named);
      case Gives.OfSet(PermissionSetKey key) -> set(key, false, named);
      case Gives.OfPermission(PermissionKey key) -> {
        if (name.deny()) {
          named.deny.set(rights.permission(key));
        } else {
          named.free.set(rights.permission(key));
          named.all.set(rights.permission(key));
        }
      }
    }
    return new EffectiveRights(rights, named);
  }

  private record Visit(RoleKey role, boolean mfa) {}

  private void role(RoleKey top, EffectiveRights.Named named) {
    Set<Visit> seen = new HashSet<>();
    Deque<Visit> open = new ArrayDeque<>(List.of(new Visit(top, false)));
    while (!open.isEmpty()) {
      Visit visit = open.remove();
      Role role = catalogue.roles().get(visit.role());
      named.retired |= role != null && role.retired();
      if (role == null || role.retired() || !seen.add(visit)) {
        continue;
      }
      boolean mfa = visit.mfa() || role.requiresMfa();
      role.sets().forEach(set -> set(set, mfa, named));
      role.inherits().forEach(junior -> open.add(new Visit(junior, mfa)));
    }
  }

  private void set(PermissionSetKey top, boolean mfa, EffectiveRights.Named named) {
    Set<PermissionSetKey> seen = new HashSet<>();
    Deque<PermissionSetKey> open = new ArrayDeque<>(List.of(top));
    while (!open.isEmpty()) {
      PermissionSetKey key = open.remove();
      PermissionSet set = catalogue.sets().get(key);
      if (set == null || !seen.add(key)) {
        continue;
      }
      for (PermissionKey it : set.allow()) {
        int p = rights.permission(it);
        named.all.set(p);
        if (!mfa) {
          named.free.set(p);
        }
      }
      set.deny().forEach(it -> named.deny.set(rights.permission(it)));
      open.addAll(set.includes());
    }
  }
}
