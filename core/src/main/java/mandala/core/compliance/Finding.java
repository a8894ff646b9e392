package mandala.core.compliance;

import java.util.List;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.ExclusionViolation;
import mandala.core.question.ExpectationViolation;

/** A rule of the model that does not hold (sections 8 and 9). */
public sealed interface Finding {

  /** How the names of findings about roles begin. */
  String PREREQUISITE = "prerequisite-missing ";

  /** See {@link #PREREQUISITE}. */
  String FEW = "too-few-holders ";

  /** See {@link #PREREQUISITE}. */
  String MANY = "too-many-holders ";

  /** An exclusion is broken by one principal. */
  record ExclusionBroken(ExclusionKey exclusion, ExclusionViolation conflict) implements Finding {}

  /**
   * An expectation fails.
   *
   * @param breaches what breaks it, not none
   */
  record ExpectationFails(ExpectationKey expectation, List<ExpectationViolation> breaches)
      implements Finding {
    /** Copies its breaches. */
    public ExpectationFails {
      breaches = List.copyOf(breaches);
    }
  }

  /** A principal holds a role without one of its prerequisites. */
  record PrerequisiteMissing(PrincipalKey principal, RoleKey role, RoleKey missing)
      implements Finding {}

  /**
   * A role has fewer or more active holders than it may.
   *
   * @param holders how many there are, {@link #UNTOLD} to somebody who may not read all of them
   * @param few whether there are too few
   */
  record HolderLimit(RoleKey role, int holders, boolean few) implements Finding {
    /** Stands for a number that is not told. */
    public static final int UNTOLD = -1;
  }

  /**
   * {@return what the finding is about}: equal for findings of before and after that are the same,
   * however much of it there is
   */
  default List<Object> about() {
    return switch (this) {
      case ExclusionBroken(ExclusionKey key, ExclusionViolation conflict) ->
          List.of(key, conflict.principal());
      case ExpectationFails(ExpectationKey key, var _) -> List.of(key);
      case PrerequisiteMissing(PrincipalKey principal, RoleKey role, RoleKey missing) ->
          List.of(principal, role, missing);
      case HolderLimit(RoleKey role, var _, boolean few) -> List.of(role, few);
    };
  }

  /**
   * {@return a stable name for the finding}: the rule that is violated in fixed words, then the
   * keys of what it is about, separated by blanks. Findings of two models have the same name
   * exactly where {@link #about} is equal; it may be stored.
   */
  default String id() {
    return switch (this) {
      case ExclusionBroken(ExclusionKey key, ExclusionViolation conflict) ->
          idOf(key) + " " + conflict.principal().value();
      case ExpectationFails(ExpectationKey key, var _) -> idOf(key);
      case PrerequisiteMissing(PrincipalKey principal, RoleKey role, RoleKey missing) ->
          PREREQUISITE + principal.value() + " " + role.value() + " " + missing.value();
      case HolderLimit(RoleKey role, var _, boolean few) -> (few ? FEW : MANY) + role.value();
    };
  }

  /** {@return how the names of an exclusion's findings begin}; a blank and whose follow */
  static String idOf(ExclusionKey key) {
    return "exclusion-broken " + key.value();
  }

  /** {@return the name of an expectation's finding} */
  static String idOf(ExpectationKey key) {
    return "expectation-fails " + key.value();
  }

  /** {@return whether a name is of a finding about holders or prerequisites of a role} */
  static boolean isOfRole(String id) {
    return id.startsWith(PREREQUISITE) || id.startsWith(FEW) || id.startsWith(MANY);
  }
}
