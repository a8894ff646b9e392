package mandala.core.explain;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;
import mandala.core.rule.PermissionClosure;
import org.jspecify.annotations.Nullable;

/**
 * How what is given comes to allow or deny a permission (section 3): a breadth-first walk over
 * roles, sets and implications, so that the shortest way is found; first among ways that work, then
 * among those that need a second factor, then among those through retired roles. Thread-safe.
 */
public final class GrantPaths {

  private final Catalogue catalogue;
  private final Map<Asked, Path> known = new ConcurrentHashMap<>();

  private record Asked(Gives gives, PermissionKey permission, boolean mfa) {}

  /**
   * A way, or none.
   *
   * @param gifts empty where there is no way
   */
  public record Path(List<GrantStep> gifts, List<Obstacle> obstacles) {
    static final Path NONE = new Path(List.of(), List.of());

    /** Copies its lists. */
    public Path {
      gifts = List.copyOf(gifts);
      obstacles = List.copyOf(obstacles);
    }

    /** {@return whether there is a way} */
    public boolean exists() {
      return !gifts.isEmpty();
    }
  }

  private record Node(@Nullable Node before, GrantStep gift) {
    List<GrantStep> path() {
      List<GrantStep> path = new ArrayList<>();
      for (Node at = this; at != null; at = at.before) {
        path.addFirst(at.gift);
      }
      return path;
    }
  }

  /** Looks at what things of a catalogue give. */
  public GrantPaths(Catalogue catalogue) {
    this.catalogue = catalogue;
  }

  /** {@return how a permission is allowed}, by the way with the fewest obstacles */
  public Path allowing(Gives gives, PermissionKey permission, boolean mfa) {
    return known.computeIfAbsent(new Asked(gives, permission, mfa), this::search);
  }

  private Path search(Asked asked) {
    for (Effort effort : Effort.values()) {
      if (effort == Effort.WITHOUT_FACTOR && asked.mfa()) {
        continue;
      }
      List<GrantStep> found = walk(asked.gives(), asked.permission(), effort);
      if (!found.isEmpty()) {
        return new Path(found, obstacles(found, asked.mfa()));
      }
    }
    return Path.NONE;
  }

  /** What a walk may pass. */
  private enum Effort {
    WITHOUT_FACTOR,
    WITH_FACTOR,
    THROUGH_RETIRED
  }

  private static List<Obstacle> obstacles(List<GrantStep> gifts, boolean mfa) {
    List<Obstacle> obstacles = new ArrayList<>();
    for (GrantStep gift : gifts) {
      if (gift instanceof GrantStep.OfRole(RoleKey key, boolean needs, boolean retired)) {
        if (retired) {
          obstacles.add(new Obstacle.RoleRetired(key));
        }
        if (needs && !mfa && obstacles.stream().noneMatch(NEEDS)) {
          obstacles.add(new Obstacle.NeedsSecondFactor(key));
        }
      }
    }
    return obstacles;
  }

  private static final java.util.function.Predicate<Obstacle> NEEDS =
      Obstacle.NeedsSecondFactor.class::isInstance;

  /** {@return all that is within what is given}, the nearest first: roles, sets, permissions */
  public Set<GrantStep> within(Gives gives) {
    Set<GrantStep> seen = new LinkedHashSet<>();
    Deque<GrantStep> open = new ArrayDeque<>(List.of(first(gives)));
    while (!open.isEmpty()) {
      GrantStep gift = open.remove();
      if (seen.add(gift)) {
        open.addAll(within(gift, true));
      }
    }
    return seen;
  }

  private List<GrantStep> walk(Gives gives, PermissionKey target, Effort effort) {
    Deque<Node> open = new ArrayDeque<>();
    Set<GrantStep> seen = new HashSet<>();
    open.add(new Node(null, first(gives)));
    while (!open.isEmpty()) {
      Node node = open.remove();
      if (!seen.add(node.gift()) || !passes(node.gift(), effort)) {
        continue;
      }
      if (node.gift() instanceof GrantStep.OfPermission(PermissionKey key)) {
        if (key.equals(target)) {
          return List.copyOf(node.path());
        }
        Permission permission = catalogue.permissions().get(key);
        if (permission != null) {
          permission
              .implies()
              .forEach(it -> open.add(new Node(node, new GrantStep.OfPermission(it))));
        }
      } else {
        within(node.gift(), true).forEach(gift -> open.add(new Node(node, gift)));
      }
    }
    return List.of();
  }

  /**
   * {@return how a permission is denied}: the way to one that it is or implies; empty if it is not
   */
  public List<GrantStep> denying(Gives gives, boolean single, PermissionKey permission) {
    Set<PermissionKey> below = PermissionClosure.implied(permission, catalogue);
    Deque<Node> open = new ArrayDeque<>();
    Set<GrantStep> seen = new HashSet<>();
    open.add(new Node(null, first(gives)));
    while (!open.isEmpty()) {
      Node node = open.remove();
      if (!seen.add(node.gift()) || !passes(node.gift(), Effort.WITH_FACTOR)) {
        continue;
      }
      if (node.gift() instanceof GrantStep.OfPermission(PermissionKey key)) {
        if (below.contains(key) && (single || node.before() != null)) {
          return List.copyOf(node.path());
        }
      } else {
        within(node.gift(), false).forEach(gift -> open.add(new Node(node, gift)));
      }
    }
    return List.of();
  }

  private static boolean passes(GrantStep gift, Effort effort) {
    if (gift instanceof GrantStep.OfRole(var _, boolean needs, boolean retired)) {
      return switch (effort) {
        case WITHOUT_FACTOR -> !needs && !retired;
        case WITH_FACTOR -> !retired;
        case THROUGH_RETIRED -> true;
      };
    }
    return true;
  }

  private GrantStep first(Gives gives) {
    return switch (gives) {
      case Gives.OfRole(RoleKey key) -> role(key);
      case Gives.OfSet(PermissionSetKey key) -> new GrantStep.OfSet(key);
      case Gives.OfPermission(PermissionKey key) -> new GrantStep.OfPermission(key);
    };
  }

  private GrantStep role(RoleKey key) {
    Role role = catalogue.roles().get(key);
    if (role == null) {
      throw new IllegalStateException("Impossible state: a checked model lacks role " + key);
    }
    return new GrantStep.OfRole(key, role.requiresMfa(), role.retired());
  }

  private List<GrantStep> within(GrantStep gift, boolean allows) {
    List<GrantStep> within = new ArrayList<>();
    if (gift instanceof GrantStep.OfRole(RoleKey key, var _, var _)) {
      Role role = catalogue.roles().get(key);
      if (role != null) {
        role.sets().forEach(set -> within.add(new GrantStep.OfSet(set)));
        role.inherits().forEach(junior -> within.add(role(junior)));
      }
    } else if (gift instanceof GrantStep.OfSet(PermissionSetKey key)) {
      PermissionSet set = catalogue.sets().get(key);
      if (set != null) {
        (allows ? set.allow() : set.deny())
            .forEach(it -> within.add(new GrantStep.OfPermission(it)));
        set.includes().forEach(it -> within.add(new GrantStep.OfSet(it)));
      }
    }
    return within;
  }
}
