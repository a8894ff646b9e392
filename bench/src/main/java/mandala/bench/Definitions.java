package mandala.bench;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.Permission.Risk;
import mandala.core.model.PermissionSet;
import mandala.core.model.ResourceType;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;

/** Types, permissions, sets and roles of a settlement: 40 types of 25 permissions each. */
@SuppressWarnings("NullAway") // javac drops Key.@Nullable X from compact constructors' class files
final class Definitions {

  static final List<String> LABELS = List.of("class", "region", "project");

  private static final int TYPES = 40;
  private static final int CONTAINERS = 6;
  private static final int PER_TYPE = 25;

  final List<PermissionKey> permissions = new ArrayList<>();
  final List<Gives> roles = new ArrayList<>();
  final List<Gives> sets = new ArrayList<>();
  final List<Gives> single = new ArrayList<>();
  final List<TypeKey> types = new ArrayList<>();

  private final Random random;
  private final Size size;
  private final AccessModel.Builder model;

  Definitions(Random random, Size size, AccessModel.Builder model) {
    this.random = random;
    this.size = size;
    this.model = model;
  }

  TypeKey anyContainer() {
    return types.get(random.nextInt(CONTAINERS));
  }

  TypeKey anyLeaf() {
    return types.get(CONTAINERS + random.nextInt(TYPES - CONTAINERS));
  }

  void make() {
    for (int t = 0; t < TYPES; t++) {
      TypeKey type = new TypeKey("type-" + t);
      model.add(new ResourceType(type, About.NONE, null));
      types.add(type);
    }
    for (int t = 0; t < TYPES; t++) {
      for (int i = 0; i < PER_TYPE; i++) {
        permission(t, i);
      }
    }
    sets();
    roles();
  }

  private static PermissionKey key(int type, int i) {
    return new PermissionKey("t" + type + ".p" + i);
  }

  /** The first is to see; eight see, twelve change and imply seeing, five administer. */
  private void permission(int t, int i) {
    AccessClass c = i < 8 ? AccessClass.VIEW : i < 20 ? AccessClass.CHANGE : AccessClass.ADMINISTER;
    List<PermissionKey> implies = new ArrayList<>();
    List<PermissionKey> requires = new ArrayList<>();
    if (i >= 8) {
      implies.add(key(t, 0));
    }
    if (i >= 20) {
      implies.add(key(t, 8 + i % 4));
    }
    if (i == 12 || i == 17 || i == 23) {
      requires.add(key(t, 3));
    }
    List<TypeKey> on = new ArrayList<>(List.of(types.get(t)));
    if (t < CONTAINERS && i == 5) {
      on = new ArrayList<>(types.subList(0, CONTAINERS));
    }
    if (t >= TYPES - 6 && i == 14) {
      requires.add(key(t % CONTAINERS, 5));
    }
    model.add(
        new Permission(
            key(t, i),
            About.NONE,
            null,
            on,
            c,
            i % 9 == 8 ? Risk.CRITICAL : Risk.values()[i % 3],
            implies,
            requires,
            null));
    permissions.add(key(t, i));
    single.add(new Gives.OfPermission(key(t, i)));
  }

  private void sets() {
    List<PermissionSetKey> keys = new ArrayList<>();
    for (int s = 0; s < size.sets; s++) {
      Set<PermissionKey> allow = new LinkedHashSet<>();
      Set<PermissionKey> deny = new LinkedHashSet<>();
      for (int type = 0; type < 1 + random.nextInt(3); type++) {
        int t = random.nextInt(TYPES);
        for (int i = 0; i < 2 + random.nextInt(5); i++) {
          allow.add(key(t, (int) (PER_TYPE * Math.pow(random.nextDouble(), 1.5))));
        }
        if (random.nextInt(100) < 2) {
          deny.add(key(t, 10 + random.nextInt(PER_TYPE - 10)));
        }
      }
      List<PermissionSetKey> includes =
          s > 3 && random.nextInt(100) < 15 ? List.of(keys.get(random.nextInt(s))) : List.of();
      PermissionSetKey key = new PermissionSetKey("set-" + s);
      model.add(
          new PermissionSet(
              key, About.NONE, null, List.copyOf(allow), List.copyOf(deny), includes));
      keys.add(key);
      sets.add(new Gives.OfSet(key));
    }
  }

  private void roles() {
    List<RoleKey> keys = new ArrayList<>();
    for (int r = 0; r < size.roles; r++) {
      Set<PermissionSetKey> of = new LinkedHashSet<>();
      for (int s = 0; s < 1 + random.nextInt(4); s++) {
        of.add(new PermissionSetKey("set-" + random.nextInt(size.sets)));
      }
      List<RoleKey> juniors =
          r > 3 && random.nextInt(100) < 25 ? List.of(keys.get(random.nextInt(r))) : List.of();
      RoleKey key = new RoleKey("role-" + r);
      model.add(
          new Role(
              key,
              About.NONE,
              null,
              null,
              null,
              random.nextInt(100) < 1,
              List.copyOf(of),
              juniors,
              random.nextInt(100) < 8,
              List.of(),
              null,
              null,
              List.of()));
      keys.add(key);
      roles.add(new Gives.OfRole(key));
    }
    roles.add(new Gives.OfRole(Supplied.OWNER));
  }
}
