package mandala.core.lifecycle;

import java.util.Collection;
import java.util.List;
import java.util.Map;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;

/** A sign-in that several people shared becomes one for each; the shared one is left. */
public final class SharedSplit {

  private SharedSplit() {}

  /**
   * One of those who shared.
   *
   * @param who the new one, whose key nobody has
   * @param chosen names of ties of the shared one that they have from now on
   */
  public record Part(Principal who, Collection<String> chosen) {}

  /**
   * {@return the changes}
   *
   * @param duties who takes over what the shared one answered for, by name of the tie; what is not
   *     named ends
   */
  public static List<Change> changes(
      Catalogue in, Ties shared, List<Part> parts, Map<String, Principal> duties) {
    TieChanges changes = new TieChanges(in);
    parts.forEach(it -> changes.add(it.who()));
    parts.forEach(it -> ColleagueCopy.give(changes, shared, it.who(), it.chosen()));
    changes.alter(shared.whose(), it -> Rewritten.status(it, Principal.Status.LEFT));
    for (Tie it : shared.all()) {
      Principal to = duties.get(it.id());
      if (to != null && it.sort() == Tie.Sort.DUTY) {
        it.hand(changes, shared.whose(), to);
      } else {
        it.end(changes, shared.whose());
      }
    }
    return changes.all();
  }
}
