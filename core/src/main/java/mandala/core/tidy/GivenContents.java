package mandala.core.tidy;

import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.compiled.rights.EffectiveRightsReader;
import mandala.core.compiled.rights.Rights;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Role;
import mandala.core.model.key.RoleKey;

/** What the things of one catalogue give (section 3), and whose holding of a role matters. */
final class GivenContents {

  private final Catalogue catalogue;
  private final EffectiveRightsReader reader;
  private final Map<EffectiveRightsReader.Name, EffectiveRights> known = new HashMap<>();
  private final Map<Gives, Set<RoleKey>> watchedOf = new HashMap<>();

  GivenContents(Catalogue catalogue, Rights rights) {
    this.catalogue = catalogue;
    reader = new EffectiveRightsReader(catalogue, rights);
  }

  EffectiveRights of(Gives gives) {
    return of(new EffectiveRightsReader.Name(gives, false));
  }

  EffectiveRights of(Assignment assignment) {
    return of(
        new EffectiveRightsReader.Name(
            assignment.gives(), assignment.effect() == Assignment.Effect.DENY));
  }

  private EffectiveRights of(EffectiveRightsReader.Name name) {
    return known.computeIfAbsent(name, reader::read);
  }

  /**
   * {@return the roles that one comes to hold by something given} (section 8), as far as it matters
   * to a finding whether they hold them: prerequisites, and roles that need holders
   */
  Set<RoleKey> watched(Gives gives) {
    return watchedOf.computeIfAbsent(gives, this::readWatched);
  }

  private Set<RoleKey> readWatched(Gives gives) {
    Set<RoleKey> held = new LinkedHashSet<>();
    if (gives instanceof Gives.OfRole(RoleKey key)) {
      hold(key, held);
    }
    held.removeIf(it -> !isWatched(it));
    return held;
  }

  private void hold(RoleKey key, Set<RoleKey> held) {
    Role role = catalogue.roles().get(key);
    if (role != null && held.add(key) && !role.retired()) {
      role.inherits().forEach(junior -> hold(junior, held));
    }
  }

  boolean isWatched(RoleKey key) {
    Role role = catalogue.roles().get(key);
    return (role != null && role.minHolders() != null)
        || catalogue.roles().values().stream().anyMatch(it -> it.prerequisites().contains(key));
  }
}
