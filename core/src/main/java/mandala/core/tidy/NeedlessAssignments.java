package mandala.core.tidy;

import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import mandala.core.compiled.rights.Rights;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;

/** Finds assignments that another one to the same subject makes needless. */
public final class NeedlessAssignments {

  private NeedlessAssignments() {}

  /**
   * {@return the assignments without which everything stays the same from an instant on, each with
   * the one that gives as much}; those that are over are not among them
   */
  public static Map<Assignment, Assignment> of(Catalogue catalogue, Instant at) {
    Covering covering =
        new Covering(catalogue, new GivenContents(catalogue, new Rights(catalogue)), at);
    Map<Assignment, Assignment> needless = new LinkedHashMap<>();
    covering
        .needless(catalogue.assignments().values(), Tidier.Bounds.NONE)
        .forEach((it, by) -> by.ifPresent(other -> needless.put(it, other)));
    return needless;
  }
}
