package mandala.core.model.check;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.rule.Gates;
import org.jspecify.annotations.Nullable;

/** Everything that must not lead back to itself (section 1), each cycle named. */
final class CycleCheck {

  private final AccessModel model;
  private final Catalogue known;
  private final Faults faults;

  CycleCheck(AccessModel model, Catalogue known, Faults faults) {
    this.model = model;
    this.known = known;
    this.faults = faults;
  }

  void run() {
    check(Kind.ACCOUNTS, "parent", Account::key, a -> one(a.parent()), known.accounts());
    check(Kind.UNITS, "parent", Unit::key, u -> one(u.parent()), known.units());
    check(Kind.PRINCIPALS, "manager", Principal::key, p -> one(p.manager()), known.principals());
    check(Kind.GROUPS, "members", Group::key, CycleCheck::nested, known.groups());
    check(Kind.PERMISSIONS, "implies", Permission::key, Permission::implies, known.permissions());
    check(
        Kind.PERMISSION_SETS,
        "includes",
        PermissionSet::key,
        PermissionSet::includes,
        known.sets());
    check(Kind.ROLES, "inherits", Role::key, Role::inherits, known.roles());
    check(Kind.RESOURCES, "parent", Resource::key, r -> one(r.parent()), known.resources());
    Map<PermissionKey, Set<PermissionKey>> gates = new HashMap<>();
    check(
        Kind.PERMISSIONS,
        "requires",
        Permission::key,
        p -> gates.computeIfAbsent(p.key(), _ -> Gates.of(p, known.permissions()::get)),
        known.permissions());
  }

  private static <K> List<K> one(@Nullable K key) {
    return key == null ? List.of() : List.of(key);
  }

  private static List<GroupKey> nested(Group group) {
    return group.members().stream()
        .filter(Group.Member.OfGroup.class::isInstance)
        .map(member -> ((Group.Member.OfGroup) member).key())
        .toList();
  }

  private <K, T extends Thing> void check(
      Kind kind,
      String field,
      Function<T, K> keyOf,
      Function<T, ? extends Collection<K>> edges,
      Map<K, T> byKey) {
    Map<K, Integer> index = new HashMap<>();
    @SuppressWarnings("unchecked") // the things of a kind are of its type
    List<T> things = (List<T>) model.things(kind);
    for (int i = 0; i < things.size(); i++) {
      index.putIfAbsent(keyOf.apply(things.get(i)), i);
    }
    Function<K, Collection<K>> next =
        key -> {
          T thing = byKey.get(key);
          return thing == null ? List.of() : List.copyOf(edges.apply(thing));
        };
    List<K> nodes = things.stream().map(keyOf).distinct().toList();
    for (List<K> cycle : Cycles.of(nodes, next)) {
      Integer at = index.get(cycle.getFirst());
      faults
          .at("$." + kind.field())
          .index(at == null ? 0 : at)
          .field(field)
          .report(
              "there is a cycle: "
                  + cycle.stream().map(Object::toString).collect(Collectors.joining(" → ")),
              "Break it at one of these");
    }
  }
}
