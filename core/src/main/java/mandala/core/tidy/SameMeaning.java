package mandala.core.tidy;

import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.atomic.AtomicBoolean;
import mandala.core.change.Change;
import mandala.core.change.ModelDifference;
import mandala.core.engine.Engine;
import mandala.core.model.Delegation;
import mandala.core.model.WindowEdges;
import mandala.core.question.Difference;
import mandala.core.question.Impact;
import mandala.core.question.Session;

/**
 * Proves on two engines that everybody may do the same: for themselves and for others, with and
 * without a second factor, with what is activated and with all that could be, at an instant and
 * each later one at which anything begins or ends.
 */
final class SameMeaning {

  private SameMeaning() {}

  static boolean isKept(Engine before, Engine after, Instant at) {
    return isKeptAsActivated(before, after, at)
        && isKeptAsActivated(before.switchedOn(), after.switchedOn(), at);
  }

  private static boolean isKeptAsActivated(Engine before, Engine after, Instant at) {
    List<Change> changes =
        ModelDifference.between(before.catalogue().model(), after.catalogue().model());
    AtomicBoolean same = new AtomicBoolean(true);
    for (boolean factor : List.of(true, false)) {
      before.impactOverTime(
          after,
          changes,
          at,
          factor,
          null,
          Impact.Watch.TO_THE_END,
          (_, _, _) -> {
            same.set(false);
            return false;
          });
    }
    return same.get() && isKeptForOthers(before, after, at);
  }

  private static boolean isKeptForOthers(Engine before, Engine after, Instant at) {
    Set<Instant> edges = new TreeSet<>(Set.of(at));
    WindowEdges.of(before.catalogue()).stream().filter(at::isBefore).forEach(edges::add);
    for (Delegation it : before.catalogue().delegations().values()) {
      for (Instant edge : edges) {
        for (boolean factor : List.of(true, false)) {
          Session session = new Session(it.delegate(), edge, factor, it.principal());
          Difference difference =
              before.accessAfresh(session).difference(after.accessAfresh(session));
          if (difference.gained() > 0 || difference.lost() > 0) {
            return false;
          }
        }
      }
    }
    return true;
  }
}
