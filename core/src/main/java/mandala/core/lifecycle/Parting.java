package mandala.core.lifecycle;

import java.util.List;
import java.util.Map;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.model.Catalogue;
import mandala.core.model.Principal;

/** Somebody leaves: nothing that they have stays, and what they answer for is handed over. */
public final class Parting {

  private Parting() {}

  /** {@return what to do with a tie unless somebody chooses otherwise} */
  public static Fate usual() {
    return new Fate.End();
  }

  /**
   * {@return the changes of parting}: marked as left, with nothing that would come back by itself
   *
   * @param fates of duties, by name of the tie; what is not named ends
   */
  public static List<Change> changes(Catalogue in, Ties ties, Map<String, Fate> fates) {
    TieChanges changes = new TieChanges(in);
    part(ties, fates, changes);
    return changes.all();
  }

  /** Parts with one of several people. */
  static void part(Ties ties, Map<String, Fate> fates, TieChanges changes) {
    Principal who = ties.whose();
    changes.alter(who, it -> Rewritten.status(it, Principal.Status.LEFT));
    for (Tie it : ties.all()) {
      fates.getOrDefault(it.id(), new Fate.End()).of(it, who, changes);
    }
  }

  /** {@return the changes by which the record of somebody goes, with all that ties it} */
  public static List<Change> removal(Catalogue in, Principal who) {
    TieChanges changes = new TieChanges(in);
    for (Tie it : Ties.of(in, who).all()) {
      it.end(changes, who);
    }
    changes.remove(who);
    return changes.all();
  }

  /**
   * {@return the changes that end everything at once}, and from which somebody may come back:
   * suspended, nothing activated, nobody acting for them or they for anybody
   */
  public static List<Change> atOnce(Catalogue in, Ties ties) {
    TieChanges changes = new TieChanges(in);
    Principal who = ties.whose();
    changes.alter(who, it -> Rewritten.status(it, Principal.Status.SUSPENDED));
    for (Tie it : ties.all()) {
      if (it instanceof Tie.Delegates || it instanceof Tie.Activated) {
        it.end(changes, who);
      }
    }
    return changes.all();
  }
}
