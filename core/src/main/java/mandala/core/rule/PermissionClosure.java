package mandala.core.rule;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.key.PermissionKey;

/** Allows go down implications, denies go up (section 3). */
public final class PermissionClosure {

  private PermissionClosure() {}

  /**
   * {@return what an allow of a permission allows}: itself and all that it implies, however far,
   * the nearest first; none where there is no such permission
   */
  public static Set<PermissionKey> implied(PermissionKey key, Catalogue catalogue) {
    Set<PermissionKey> all = new LinkedHashSet<>();
    Deque<PermissionKey> open = new ArrayDeque<>();
    open.add(key);
    while (!open.isEmpty()) {
      PermissionKey next = open.remove();
      Permission it = catalogue.permissions().get(next);
      if (it != null && all.add(next)) {
        open.addAll(it.implies());
      }
    }
    return all;
  }

  /** {@return what a deny of a permission denies}: itself and all that imply it, however far */
  public static Set<PermissionKey> implying(PermissionKey key, Catalogue catalogue) {
    Set<PermissionKey> all = new LinkedHashSet<>();
    for (Permission it : catalogue.permissions().values()) {
      if (implied(it.key(), catalogue).contains(key)) {
        all.add(it.key());
      }
    }
    return all;
  }
}
