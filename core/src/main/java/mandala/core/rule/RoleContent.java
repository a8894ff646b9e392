package mandala.core.rule;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Key;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;

/**
 * What a role amounts to by itself (section 3): its sets and juniors, closed over what permissions
 * imply, denies taken off.
 *
 * @param lines every permission that it allows or denies, in the model's order
 */
public record RoleContent(List<Line> lines) {

  /** Copies its lines. */
  public RoleContent {
    lines = List.copyOf(lines);
  }

  /**
   * One permission.
   *
   * @param allowed whether some way allows it and none denies it
   * @param denied whether some way denies it
   * @param needsFactor whether every way that allows it needs a second factor
   * @param sets the sets that name it, or name what implies it
   * @param roles the roles whose sets these are: the role itself or juniors
   */
  public record Line(
      Key.Permission permission,
      boolean allowed,
      boolean denied,
      boolean needsFactor,
      List<Key.PermissionSet> sets,
      List<Key.Role> roles) {
    /** Copies its lists. */
    public Line {
      sets = List.copyOf(sets);
      roles = List.copyOf(roles);
    }
  }

  private static final class Sum {
    boolean allows;
    boolean denies;
    boolean plain;
    final Set<Key.PermissionSet> sets = new LinkedHashSet<>();
    final Set<Key.Role> roles = new LinkedHashSet<>();
  }

  /** {@return what a role amounts to}; a retired one comes to nothing */
  public static RoleContent of(Key.Role role, Catalogue catalogue) {
    Map<Key.Permission, Sum> sums = new LinkedHashMap<>();
    add(role, false, catalogue, sums, new HashSet<>());
    List<Line> lines = new ArrayList<>();
    for (Permission permission : catalogue.permissions().values()) {
      Sum sum = sums.get(permission.key());
      if (sum != null) {
        lines.add(
            new Line(
                permission.key(),
                sum.allows && !sum.denies,
                sum.denies,
                sum.allows && !sum.plain,
                List.copyOf(sum.sets),
                List.copyOf(sum.roles)));
      }
    }
    return new RoleContent(lines);
  }

  private record Seen(Key.Role role, boolean factor) {}

  private static void add(
      Key.Role key,
      boolean factorAbove,
      Catalogue catalogue,
      Map<Key.Permission, Sum> sums,
      Set<Seen> seen) {
    Role role = catalogue.roles().get(key);
    boolean factor = factorAbove || (role != null && role.requiresMfa());
    if (role == null || role.retired() || !seen.add(new Seen(key, factor))) {
      return;
    }
    for (Key.PermissionSet set : role.sets()) {
      add(set, set, key, factor, catalogue, sums, new HashSet<>());
    }
    role.inherits().forEach(junior -> add(junior, factor, catalogue, sums, seen));
  }

  private static void add(
      Key.PermissionSet inner,
      Key.PermissionSet named,
      Key.Role role,
      boolean factor,
      Catalogue catalogue,
      Map<Key.Permission, Sum> sums,
      Set<Key.PermissionSet> seen) {
    PermissionSet set = catalogue.sets().get(inner);
    if (set == null || !seen.add(inner)) {
      return;
    }
    for (Key.Permission allowed : set.allow()) {
      for (Key.Permission implied : PermissionClosure.implied(allowed, catalogue)) {
        Sum sum = sums.computeIfAbsent(implied, _ -> new Sum());
        sum.allows = true;
        sum.plain |= !factor;
        sum.sets.add(named);
        sum.roles.add(role);
      }
    }
    for (Key.Permission denied : set.deny()) {
      for (Key.Permission implying : PermissionClosure.implying(denied, catalogue)) {
        Sum sum = sums.computeIfAbsent(implying, _ -> new Sum());
        sum.denies = true;
        sum.sets.add(named);
        sum.roles.add(role);
      }
    }
    set.includes().forEach(included -> add(included, named, role, factor, catalogue, sums, seen));
  }
}
