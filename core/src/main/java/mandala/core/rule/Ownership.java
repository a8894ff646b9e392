package mandala.core.rule;

import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;

/** Which assignments make somebody an owner of an account (section 11, the last owner stays). */
public final class Ownership {

  private Ownership() {}

  /**
   * {@return whether an assignment gives {@code mandala.owner} for good}: standing, without an end,
   * by a role that is it or comes to it
   */
  public static boolean isGivenBy(Assignment assignment, Catalogue catalogue) {
    return assignment.mode() == Assignment.Mode.STANDING
        && assignment.window().until() == null
        && assignment.gives() instanceof Gives.OfRole(RoleKey role)
        && comesTo(role, catalogue);
  }

  /** Whether an active role is the owner's or inherits it; a retired one gives nothing. */
  private static boolean comesTo(RoleKey role, Catalogue catalogue) {
    Role held = catalogue.roles().get(role);
    return held != null
        && !held.retired()
        && (role.equals(Supplied.OWNER)
            || held.inherits().stream().anyMatch(junior -> comesTo(junior, catalogue)));
  }

  /**
   * {@return who comes into question as an owner of something}: where such roles are assigned to
   * people by name only, these; else everybody. So that a city of people need not be asked one by
   * one
   *
   * @param assignments that are looked at; retired roles among what they give count
   */
  public static Collection<Principal> possibleOwners(
      Collection<Assignment> assignments, Catalogue catalogue) {
    Map<RoleKey, Boolean> known = new HashMap<>();
    Map<PrincipalKey, Principal> named = new LinkedHashMap<>();
    for (Assignment it : assignments) {
      if (it.gives() instanceof Gives.OfRole(RoleKey role)
          && known.computeIfAbsent(role, key -> mayComeTo(key, catalogue, new HashSet<>()))) {
        Principal principal =
            it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)
                ? catalogue.principals().get(key)
                : null;
        if (principal == null) {
          return catalogue.principals().values();
        }
        named.put(principal.key(), principal);
      }
    }
    return List.copyOf(named.values());
  }

  private static boolean mayComeTo(RoleKey key, Catalogue catalogue, Set<RoleKey> seen) {
    Role role = catalogue.roles().get(key);
    return key.equals(Supplied.OWNER)
        || (role != null
            && seen.add(key)
            && role.inherits().stream().anyMatch(junior -> mayComeTo(junior, catalogue, seen)));
  }
}
