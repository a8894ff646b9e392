package mandala.core.analysis;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;
import mandala.core.rule.PermissionClosure;
import mandala.core.rule.ScopeCoverage;
import mandala.core.rule.Seals;
import org.jspecify.annotations.Nullable;

/**
 * What is assigned on one resource: subjects by permissions. It speaks of assignments, not of
 * effective access: a person may have several of the subjects, and gates and denies of others may
 * take away what a cell gives.
 *
 * @param permissions that apply to the resource's type, in the model's order
 * @param rows one for each subject of whom something is assigned that covers the resource
 */
public record AccessMatrix(List<PermissionKey> permissions, List<Row> rows) {

  /** Copies its lists. */
  public AccessMatrix {
    permissions = List.copyOf(permissions);
    rows = List.copyOf(rows);
  }

  /** A subject's cells, by permission; what has no cell is not assigned. */
  public record Row(Subject subject, Map<PermissionKey, Cell> cells) {}

  /** How something comes to a cell. */
  public enum Way {
    /** Set here: a single permission for exactly this resource. */
    OWN,
    /** By an assignment that covers more, or gives more. */
    INHERITED,
    /** By a permission that implies this one, or is denied with it. */
    IMPLIED
  }

  /**
   * One cell.
   *
   * @param denies whether it is a deny; a deny wins over allows of the same subject
   * @param way the nearest way
   * @param assignment by which it comes
   * @param sealedBy the seal that keeps the allow out, null where none does
   * @param conditional whether it depends on the person, the time, a second factor or switching on
   */
  public record Cell(
      boolean denies,
      Way way,
      AssignmentKey assignment,
      @Nullable ResourceKey sealedBy,
      boolean conditional) {

    private int rank() {
      return (denies ? 0 : sealedBy == null ? 10 : 20) + way.ordinal() * 2 + (conditional ? 1 : 0);
    }
  }

  /**
   * {@return the matrix of a resource}
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public static AccessMatrix of(ResourceKey resource, Catalogue catalogue, Instant at) {
    TypeKey type = catalogue.typeOf(resource);
    List<PermissionKey> permissions =
        catalogue.permissions().values().stream()
            .filter(it -> it.on().contains(type))
            .map(Permission::key)
            .toList();
    Map<Subject, Map<PermissionKey, Cell>> rows = new LinkedHashMap<>();
    for (Assignment it : catalogue.assignments().values()) {
      if (it.window().until() != null && !at.isBefore(it.window().until())) {
        continue;
      }
      for (boolean view : new boolean[] {false, true}) {
        Coverage covers = coverage(it, view, resource, catalogue);
        if (covers != null) {
          fill(it, covers, permissions, catalogue, rows, resource, at);
        }
      }
    }
    List<Row> sorted = new ArrayList<>();
    rows.forEach((subject, cells) -> {
      if (!cells.isEmpty()) {
        sorted.add(new Row(subject, Map.copyOf(cells)));
      }
    });
    return new AccessMatrix(permissions, sorted);
  }

  private record Coverage(boolean view, boolean relative, @Nullable ResourceKey sealedBy) {
    int rank() {
      return (sealedBy == null ? 0 : 2) + (relative ? 1 : 0);
    }
  }

  private static @Nullable Coverage coverage(
      Assignment it, boolean view, ResourceKey resource, Catalogue catalogue) {
    ScopeCoverage coverage = ScopeCoverage.ofAnybody(resource, catalogue);
    Coverage best = null;
    for (Clause clause : view ? it.viewScope() : it.scope()) {
      if (coverage.covers(clause)) {
        ResourceKey seal = it.crossesSeals() ? null : Seals.against(clause, resource, catalogue);
        Coverage next = new Coverage(view, clause.relative(), seal);
        if (best == null || next.rank() < best.rank()) {
          best = next;
        }
      }
    }
    return best;
  }

  private static void fill(
      Assignment it,
      Coverage covers,
      List<PermissionKey> permissions,
      Catalogue catalogue,
      Map<Subject, Map<PermissionKey, Cell>> rows,
      ResourceKey resource,
      Instant at) {
    Given given = new Given(catalogue);
    given.add(it.gives(), it.effect() == Assignment.Effect.DENY, false);
    boolean own =
        it.gives() instanceof Gives.OfPermission
            && it.scope().equals(List.of(Clause.of(new Term.Only(resource))))
            && it.viewScope().isEmpty();
    boolean conditional =
        covers.relative() || it.mode() == Assignment.Mode.JUST_IN_TIME || !it.window().holdsAt(at);
    Map<PermissionKey, Cell> row = rows.computeIfAbsent(it.subject(), _ -> new LinkedHashMap<>());
    for (PermissionKey permission : permissions) {
      Permission what = catalogue.permissions().get(permission);
      for (boolean denies : new boolean[] {true, false}) {
        Given.How how = (denies ? given.denied : given.allowed).get(permission);
        boolean counts =
            !covers.view()
                || (!denies && what != null && what.accessClass() == Permission.AccessClass.VIEW);
        if (how != null && counts) {
          Way way = !how.named() ? Way.IMPLIED : own ? Way.OWN : Way.INHERITED;
          Cell cell =
              new Cell(
                  denies,
                  way,
                  it.key(),
                  denies ? null : covers.sealedBy(),
                  conditional || (how.factor() && !denies));
          Cell before = row.get(permission);
          if (before == null || cell.rank() < before.rank()) {
            row.put(permission, cell);
          }
        }
      }
    }
  }

  /** What something gives, permission by permission. */
  private static final class Given {
    record How(boolean named, boolean factor) {}

    final Map<PermissionKey, How> allowed = new LinkedHashMap<>();
    final Map<PermissionKey, How> denied = new LinkedHashMap<>();
    private final Catalogue catalogue;
    private final Set<Object> seen = new HashSet<>();

    Given(Catalogue catalogue) {
      this.catalogue = catalogue;
    }

    void add(Gives gives, boolean denies, boolean factor) {
      if (!seen.add(List.of(gives, factor))) {
        return;
      }
      switch (gives) {
        case Gives.OfPermission(PermissionKey key) -> {
          if (denies) {
            deny(key);
          } else {
            allow(key, factor);
          }
        }
        case Gives.OfSet(PermissionSetKey key) -> {
          PermissionSet set = catalogue.sets().get(key);
          if (set != null) {
            set.allow().forEach(it -> allow(it, factor));
            set.deny().forEach(this::deny);
            set.includes().forEach(it -> add(new Gives.OfSet(it), false, factor));
          }
        }
        case Gives.OfRole(RoleKey key) -> {
          Role role = catalogue.roles().get(key);
          if (role != null && !role.retired()) {
            boolean needs = factor || role.requiresMfa();
            role.sets().forEach(it -> add(new Gives.OfSet(it), false, needs));
            role.inherits().forEach(it -> add(new Gives.OfRole(it), false, needs));
          }
        }
      }
    }

    private void allow(PermissionKey key, boolean factor) {
      for (PermissionKey implied : PermissionClosure.implied(key, catalogue)) {
        How how = new How(implied.equals(key), factor);
        allowed.merge(implied, how, Given::nearer);
      }
    }

    private void deny(PermissionKey key) {
      for (PermissionKey implying : PermissionClosure.implying(key, catalogue)) {
        denied.merge(implying, new How(implying.equals(key), false), Given::nearer);
      }
    }

    private static How nearer(How one, How other) {
      return new How(one.named() || other.named(), one.factor() && other.factor());
    }
  }
}
