package mandala.core.compiled.grants;

import java.util.HashMap;
import java.util.Map;
import mandala.core.compiled.rights.EffectiveRightsReader;
import mandala.core.model.Clause;

/**
 * Numbers for what is given and for compiled clauses, shared by a snapshot and all that come of it
 * by changes. A number says only what is meant; what that comes to, each snapshot says itself.
 * Grows only. Thread-safe.
 */
public final class GrantIds {

  private record Place(Clause clause, int within) {}

  private final Map<EffectiveRightsReader.Name, Integer> given = new HashMap<>();
  private final Map<Place, Integer> grounds = new HashMap<>();

  /** {@return the number of something given}, from 0 */
  public synchronized int given(EffectiveRightsReader.Name name) {
    Integer known = given.get(name);
    if (known == null) {
      known = given.size();
      given.put(name, known);
    }
    return known;
  }

  /** {@return the number of a clause confined to an account}, or to none by -1; from 1 */
  public synchronized int ground(Clause clause, int within) {
    Place place = new Place(clause, within);
    Integer known = grounds.get(place);
    if (known == null) {
      known = grounds.size() + 1;
      grounds.put(place, known);
    }
    return known;
  }

  /** {@return the number of something given}, or -1 where it has none yet */
  public synchronized int knownGiven(EffectiveRightsReader.Name name) {
    Integer known = given.get(name);
    return known == null ? -1 : known;
  }
}
