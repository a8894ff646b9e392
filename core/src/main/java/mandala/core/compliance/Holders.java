package mandala.core.compliance;

import java.time.Instant;
import java.util.BitSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.key.RoleKey;

/** Who counts as a holder of roles, as limits of holders count them (section 9). */
public final class Holders {

  private final Engine engine;
  private final Instant at;
  private final Map<RoleKey, BitSet> given;

  private Holders(Engine engine, Instant at) {
    this.engine = engine;
    this.at = at;
    this.given = engine.roleHolders(at);
  }

  /** {@return the holders at an instant}; for one thread */
  public static Holders at(Engine engine, Instant at) {
    return new Holders(engine, at);
  }

  /** {@return the active ones to whom a role is given, or an active role that inherits it} */
  public List<Principal> of(RoleKey role) {
    Catalogue in = engine.catalogue();
    Map<RoleKey, Boolean> known = new HashMap<>();
    BitSet all = new BitSet();
    given.forEach((key, who) -> {
      if (comesTo(key, role, in, known, new HashSet<>())) {
        all.or(who);
      }
    });
    return all.stream()
        .mapToObj(in.principals()::the)
        .filter(it -> engine.isActive(it.key(), at))
        .toList();
  }

  private static boolean comesTo(
      RoleKey from, RoleKey role, Catalogue in, Map<RoleKey, Boolean> known, Set<RoleKey> met) {
    if (from.equals(role)) {
      return true;
    }
    Boolean before = known.get(from);
    if (before != null) {
      return before;
    }
    Role it = in.roles().get(from);
    boolean comes =
        it != null
            && !it.retired()
            && met.add(from)
            && it.inherits().stream().anyMatch(junior -> comesTo(junior, role, in, known, met));
    known.put(from, comes);
    return comes;
  }
}
