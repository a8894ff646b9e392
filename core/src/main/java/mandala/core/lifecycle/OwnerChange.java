package mandala.core.lifecycle;

import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.rule.Ownership;

/** Somebody else becomes the owner of what somebody owns by name (section 11). */
public final class OwnerChange {

  private OwnerChange() {}

  /**
   * {@return the changes that hand ownership over}: the assignments that make one an owner are the
   * other's; none where the one owns by a group, a rule or a pattern alone
   */
  public static List<Change> changes(Catalogue in, Ties from, Principal to) {
    TieChanges changes = new TieChanges(in);
    for (Tie it : from.all()) {
      if (it instanceof Tie.Assigned(var assignment) && Ownership.isGivenBy(assignment, in)) {
        it.hand(changes, from.whose(), to);
      }
    }
    return changes.all();
  }
}
