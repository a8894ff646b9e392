package mandala.core.compliance;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Role;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.ExpectationViolation;

/** Checks the rules that do not change a verdict (sections 8 and 9) on a whole model. */
public final class Findings {

  private Findings() {}

  /** {@return every rule that does not hold at an instant}, in the order of the model */
  public static List<Finding> of(Engine engine, Instant at) {
    return search(engine, at, _ -> true, _ -> true, true);
  }

  /**
   * {@return the names of those of some findings that are there at an instant}: checks only the
   * rules that they are about
   *
   * @param ids names as {@link Finding#id} gives them, of this or of another state of the model
   */
  public static Set<String> among(Set<String> ids, Engine engine, Instant at) {
    List<Finding> found =
        search(
            engine,
            at,
            it -> ids.stream().anyMatch(id -> id.startsWith(Finding.idOf(it.key()) + " ")),
            it -> ids.contains(Finding.idOf(it.key())),
            ids.stream().anyMatch(Finding::isOfRole));
    return found.stream().map(Finding::id).filter(ids::contains).collect(Collectors.toSet());
  }

  private static List<Finding> search(
      Engine engine,
      Instant at,
      Predicate<Exclusion> exclusions,
      Predicate<Expectation> expectations,
      boolean roles) {
    List<Finding> found = new ArrayList<>();
    Catalogue catalogue = engine.catalogue();
    catalogue.model().exclusions().stream()
        .filter(exclusions)
        .forEach(exclusion ->
            engine
                .conflicts(exclusion, at)
                .forEach(it -> found.add(new Finding.ExclusionBroken(exclusion.key(), it))));
    catalogue.model().expectations().stream()
        .filter(expectations)
        .forEach(expectation -> {
          List<ExpectationViolation> breaches = engine.breaches(expectation, at);
          if (!breaches.isEmpty()) {
            found.add(new Finding.ExpectationFails(expectation.key(), breaches));
          }
        });
    if (roles) {
      roles(engine, at, found);
    }
    return found;
  }

  private static void roles(Engine engine, Instant at, List<Finding> found) {
    Catalogue catalogue = engine.catalogue();
    boolean none =
        catalogue.roles().values().stream()
            .allMatch(role ->
                role.prerequisites().isEmpty()
                    && role.minHolders() == null
                    && role.maxHolders() == null);
    if (none) {
      return;
    }
    Map<RoleKey, Integer> holders = new HashMap<>();
    for (PrincipalKey principal : catalogue.principals().keySet()) {
      Set<RoleKey> held = held(engine, principal, at);
      boolean active = engine.isActive(principal, at);
      for (RoleKey key : held) {
        if (active) {
          holders.merge(key, 1, Integer::sum);
        }
        Role role = catalogue.roles().get(key);
        if (role != null) {
          role.prerequisites().stream()
              .filter(needed -> !held.contains(needed))
              .forEach(
                  needed -> found.add(new Finding.PrerequisiteMissing(principal, key, needed)));
        }
      }
    }
    for (Role role : catalogue.roles().values()) {
      int many = holders.getOrDefault(role.key(), 0);
      if (role.minHolders() != null && many < role.minHolders()) {
        found.add(new Finding.HolderLimit(role.key(), many, true));
      }
      if (role.maxHolders() != null && many > role.maxHolders()) {
        found.add(new Finding.HolderLimit(role.key(), many, false));
      }
    }
  }

  /** The roles given, and those that active ones of them inherit. */
  static Set<RoleKey> held(Engine engine, PrincipalKey principal, Instant at) {
    Set<RoleKey> held = new LinkedHashSet<>();
    for (RoleKey key : engine.rolesHeld(principal, at)) {
      add(key, engine.catalogue(), held, new HashSet<>());
    }
    return held;
  }

  private static void add(RoleKey key, Catalogue catalogue, Set<RoleKey> held, Set<RoleKey> seen) {
    held.add(key);
    Role role = catalogue.roles().get(key);
    if (role != null && !role.retired() && seen.add(key)) {
      role.inherits().forEach(junior -> add(junior, catalogue, held, seen));
    }
  }
}
