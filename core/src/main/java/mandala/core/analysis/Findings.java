package mandala.core.analysis;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.engine.Breach;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Key;
import mandala.core.model.Role;

/** Checks the rules that do not change a verdict (sections 8 and 9) on a whole model. */
public final class Findings {

  private Findings() {}

  /** {@return every rule that does not hold at an instant}, in the order of the model */
  public static List<Finding> of(Engine engine, Instant at) {
    List<Finding> found = new ArrayList<>();
    Catalogue catalogue = engine.catalogue();
    for (Exclusion exclusion : catalogue.model().exclusions()) {
      engine
          .conflicts(exclusion, at)
          .forEach(it -> found.add(new Finding.ExclusionBroken(exclusion.key(), it)));
    }
    for (Expectation expectation : catalogue.model().expectations()) {
      List<Breach> breaches = engine.breaches(expectation, at);
      if (!breaches.isEmpty()) {
        found.add(new Finding.ExpectationFails(expectation.key(), breaches));
      }
    }
    roles(engine, at, found);
    return found;
  }

  /**
   * {@return the names of those of some findings that are there at an instant}: checks only the
   * rules that they are about
   *
   * @param ids names as {@link Finding#id} gives them, of this or of another state of the model
   */
  public static Set<String> among(Set<String> ids, Engine engine, Instant at) {
    List<Finding> found = new ArrayList<>();
    Catalogue catalogue = engine.catalogue();
    for (Exclusion exclusion : catalogue.model().exclusions()) {
      String start = "exclusion-broken " + exclusion.key().value() + " ";
      if (ids.stream().anyMatch(it -> it.startsWith(start))) {
        engine
            .conflicts(exclusion, at)
            .forEach(it -> found.add(new Finding.ExclusionBroken(exclusion.key(), it)));
      }
    }
    for (Expectation expectation : catalogue.model().expectations()) {
      if (ids.contains("expectation-fails " + expectation.key().value())) {
        List<Breach> breaches = engine.breaches(expectation, at);
        if (!breaches.isEmpty()) {
          found.add(new Finding.ExpectationFails(expectation.key(), breaches));
        }
      }
    }
    if (ids.stream().anyMatch(it -> it.startsWith("prerequisite") || it.startsWith("too-"))) {
      roles(engine, at, found);
    }
    Set<String> there = new HashSet<>();
    found.stream().map(Finding::id).filter(ids::contains).forEach(there::add);
    return there;
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
    Map<Key.Role, Integer> holders = new HashMap<>();
    for (Key.Principal principal : catalogue.principals().keySet()) {
      Set<Key.Role> held = held(engine, principal, at);
      boolean active = engine.isActive(principal, at);
      for (Key.Role key : held) {
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
  static Set<Key.Role> held(Engine engine, Key.Principal principal, Instant at) {
    Set<Key.Role> held = new LinkedHashSet<>();
    for (Key.Role key : engine.rolesHeld(principal, at)) {
      add(key, engine.catalogue(), held, new HashSet<>());
    }
    return held;
  }

  private static void add(
      Key.Role key, Catalogue catalogue, Set<Key.Role> held, Set<Key.Role> seen) {
    held.add(key);
    Role role = catalogue.roles().get(key);
    if (role != null && !role.retired() && seen.add(key)) {
      role.inherits().forEach(junior -> add(junior, catalogue, held, seen));
    }
  }
}
