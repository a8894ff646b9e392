package mandala.core.remediation;

import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Removal;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;

/** What ends a route, whatever else was changed before. */
sealed interface RouteCut {

  /** {@return the changes that make it}, none where it is made already */
  List<Change> in(Catalogue now);

  /** Something on the route is taken away. */
  record Takes(Removal what) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      return what.in(now);
    }
  }

  /** A deny of exactly what is asked about comes. */
  record Deny(Assignment deny) implements RouteCut {
    @Override
    public List<Change> in(Catalogue now) {
      return List.of(new Change.Added(deny));
    }
  }
}
