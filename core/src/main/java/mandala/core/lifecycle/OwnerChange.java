package mandala.core.lifecycle;

import java.time.Instant;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;
import mandala.core.rule.Ownership;

/** Somebody else becomes the owner of what somebody owns by name (section 11). */
public final class OwnerChange {

  private OwnerChange() {}

  /** {@return whether somebody could own an account}: an active person, enrolled, without an end */
  public static boolean couldOwn(Principal it, Instant at) {
    return it.kind() == Principal.Kind.PERSON
        && it.status() == Principal.Status.ACTIVE
        && it.mfa()
        && it.window().until() == null
        && it.window().holdsAt(at);
  }

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
