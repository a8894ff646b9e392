package mandala.core.rule;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/** What must be usable so that a granted permission is (section 6). */
public final class Gates {

  private Gates() {}

  /**
   * {@return the gates of a permission}: what it, or any permission that it implies, requires
   *
   * @param find a permission by its key, null where there is none
   */
  public static Set<PermissionKey> of(
      Permission permission, Function<PermissionKey, @Nullable Permission> find) {
    Set<PermissionKey> gates = new LinkedHashSet<>();
    Set<PermissionKey> seen = new HashSet<>();
    Deque<Permission> open = new ArrayDeque<>();
    open.add(permission);
    while (!open.isEmpty()) {
      Permission next = open.remove();
      if (seen.add(next.key())) {
        gates.addAll(next.requires());
        for (PermissionKey implied : next.implies()) {
          Permission it = find.apply(implied);
          if (it != null) {
            open.add(it);
          }
        }
      }
    }
    return gates;
  }

  /** {@return the gates of a permission}, none where there is no such permission */
  public static Set<PermissionKey> of(PermissionKey permission, Catalogue catalogue) {
    Permission it = catalogue.permissions().get(permission);
    return it == null ? Set.of() : of(it, catalogue.permissions()::get);
  }

  /**
   * {@return the gate resource}: the resource itself where the gate applies to its type, else the
   * nearest above it within its account to which it does; null where there is none
   */
  public static @Nullable ResourceKey resourceOf(
      PermissionKey gate, ResourceKey resource, Catalogue catalogue) {
    Permission it = catalogue.permissions().get(gate);
    AccountKey account = catalogue.accountOf(resource);
    for (ResourceKey at = resource;
        it != null && at != null && Objects.equals(catalogue.accountOf(at), account);
        at = catalogue.parentOf(at)) {
      if (it.on().contains(catalogue.typeOf(at))) {
        return at;
      }
    }
    return null;
  }
}
