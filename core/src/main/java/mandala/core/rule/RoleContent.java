package mandala.core.rule;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;

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
      PermissionKey permission,
      boolean allowed,
      boolean denied,
      boolean needsFactor,
      List<PermissionSetKey> sets,
      List<RoleKey> roles) {
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
    final Set<PermissionSetKey> sets = new LinkedHashSet<>();
    final Set<RoleKey> roles = new LinkedHashSet<>();
  }

  /** {@return what a role amounts to}; a retired one comes to nothing */
  public static RoleContent of(RoleKey role, Catalogue catalogue) {
    Map<PermissionKey, Sum> sums = new LinkedHashMap<>();
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

  private record Seen(RoleKey role, boolean factor) {}

  private static void add(
      RoleKey key,
      boolean factorAbove,
      Catalogue catalogue,
      Map<PermissionKey, Sum> sums,
      Set<Seen> seen) {
    Role role = catalogue.roles().get(key);
    boolean factor = factorAbove || (role != null && role.requiresMfa());
    if (role == null || role.retired() || !seen.add(new Seen(key, factor))) {
      return;
    }
    for (PermissionSetKey set : role.sets()) {
      add(set, set, key, factor, catalogue, sums, new HashSet<>());
    }
    role.inherits().forEach(junior -> add(junior, factor, catalogue, sums, seen));
  }

  private static void add(
      PermissionSetKey inner,
      PermissionSetKey named,
      RoleKey role,
      boolean factor,
      Catalogue catalogue,
      Map<PermissionKey, Sum> sums,
      Set<PermissionSetKey> seen) {
    PermissionSet set = catalogue.sets().get(inner);
    if (set == null || !seen.add(inner)) {
      return;
    }
    for (PermissionKey allowed : set.allow()) {
      for (PermissionKey implied : PermissionClosure.implied(allowed, catalogue)) {
        Sum sum = sums.computeIfAbsent(implied, _ -> new Sum());
        sum.allows = true;
        sum.plain |= !factor;
        sum.sets.add(named);
        sum.roles.add(role);
      }
    }
    for (PermissionKey denied : set.deny()) {
      for (PermissionKey implying : PermissionClosure.implying(denied, catalogue)) {
        Sum sum = sums.computeIfAbsent(implying, _ -> new Sum());
        sum.denies = true;
        sum.sets.add(named);
        sum.roles.add(role);
      }
    }
    set.includes().forEach(included -> add(included, named, role, factor, catalogue, sums, seen));
  }
}
