package mandala.core.analysis;

import java.util.List;
import mandala.core.engine.Breach;
import mandala.core.engine.Conflict;
import mandala.core.model.Key;

/** A rule of the model that does not hold (sections 8 and 9). */
public sealed interface Finding {

  /** An exclusion is broken by one principal. */
  record ExclusionBroken(Key.Exclusion exclusion, Conflict conflict) implements Finding {}

  /**
   * An expectation fails.
   *
   * @param breaches what breaks it, not none
   */
  record ExpectationFails(Key.Expectation expectation, List<Breach> breaches) implements Finding {
    /** Copies its breaches. */
    public ExpectationFails {
      breaches = List.copyOf(breaches);
    }
  }

  /** A principal holds a role without one of its prerequisites. */
  record PrerequisiteMissing(Key.Principal principal, Key.Role role, Key.Role missing)
      implements Finding {}

  /**
   * A role has fewer or more active holders than it may.
   *
   * @param holders how many there are, {@link #UNTOLD} to somebody who may not read all of them
   * @param few whether there are too few
   */
  record HolderLimit(Key.Role role, int holders, boolean few) implements Finding {
    /** Stands for a number that is not told. */
    public static final int UNTOLD = -1;
  }

  /**
   * {@return what the finding is about}: equal for findings of before and after that are the same,
   * however much of it there is
   */
  default List<Object> about() {
    return switch (this) {
      case ExclusionBroken(Key.Exclusion key, Conflict conflict) ->
          List.of(key, conflict.principal());
      case ExpectationFails(Key.Expectation key, var _) -> List.of(key);
      case PrerequisiteMissing(Key.Principal principal, Key.Role role, Key.Role missing) ->
          List.of(principal, role, missing);
      case HolderLimit(Key.Role role, var _, boolean few) -> List.of(role, few);
    };
  }
}
