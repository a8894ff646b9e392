package mandala.core.review;

import java.util.ArrayList;
import java.util.List;

/**
 * What is recommended for an item, why, and how sure that is.
 *
 * @param reasons the strongest first, at least one
 */
public record Recommendation(Verdict verdict, List<Reason> reasons, Certainty certainty) {

  /** Copies its reasons. */
  public Recommendation {
    reasons = List.copyOf(reasons);
  }

  /** What to do. */
  public enum Verdict {
    KEEP,
    REDUCE,
    REMOVE
  }

  /** Why. */
  public enum Reason {
    /** Whoever has it is not active. */
    INACTIVE,
    /** It was given for an earlier unit, account or title. */
    LEFT_OVER,
    /** It takes part in a violation of an exclusion. */
    CONFLICT,
    /** It gives nothing now. */
    GIVES_NOTHING,
    /** Without it they would have more: it denies something, too. */
    DENIES,
    /** It has not begun. */
    NOT_BEGUN,
    /** Something else gives all of it, too. */
    DOUBLED,
    /** Nothing that only it gives was used within the window, is demanded or young. */
    UNUSED,
    /** Less than half of what only it gives was used, is demanded or young. */
    PARTLY_USED,
    /** What only it gives was used, is demanded or young. */
    USED,
    /** No source of use reports what it gives. */
    NOT_OBSERVED,
    /** Fewer than half of the comparable colleagues have all of it. */
    FEW_COLLEAGUES,
    /** At least half of the comparable colleagues have all of it. */
    MANY_COLLEAGUES
  }

  /** How sure it is. */
  public enum Certainty {
    LOW,
    MODERATE,
    HIGH
  }

  /**
   * What is known of an item, in rights.
   *
   * @param active whether whoever has it is active
   * @param begun whether its window has begun
   * @param direct whether it is an assignment to themselves, which can be reduced
   * @param takes that its removal takes
   * @param stays that it gives and that stay without it
   * @param gives that its removal would give: it denies something, too
   * @param needed of those it takes: used, demanded or young
   * @param unobserved of those it takes: reported by no source
   * @param colleagues comparable ones
   * @param having how many of these have all that it takes
   * @param leftOver whether it was given for an earlier unit, account or title
   * @param conflict whether it takes part in a violation of an exclusion
   */
  public record Evidence(
      boolean active,
      boolean begun,
      boolean direct,
      long takes,
      long stays,
      long gives,
      long needed,
      long unobserved,
      int colleagues,
      int having,
      boolean leftOver,
      boolean conflict) {}

  /** {@return what is recommended} */
  public static Recommendation of(Evidence it) {
    if (!it.active()) {
      return new Recommendation(Verdict.REMOVE, List.of(Reason.INACTIVE), Certainty.HIGH);
    }
    if (it.gives() > 0) {
      return new Recommendation(Verdict.KEEP, List.of(Reason.DENIES), Certainty.LOW);
    }
    if (it.takes() == 0) {
      return ofNothing(it);
    }
    List<Reason> reasons = new ArrayList<>();
    if (it.needed() == 0 && it.unobserved() == it.takes()) {
      reasons.add(Reason.NOT_OBSERVED);
      addMarks(it, reasons);
      boolean goes = it.leftOver();
      return new Recommendation(
          goes ? Verdict.REMOVE : Verdict.KEEP,
          goes ? List.of(Reason.LEFT_OVER, Reason.NOT_OBSERVED) : reasons,
          Certainty.LOW);
    }
    if (it.needed() == 0) {
      reasons.add(Reason.UNUSED);
      addMarks(it, reasons);
      boolean sure =
          it.leftOver()
              || it.conflict()
              || (it.colleagues() > 0 && it.having() * 2 < it.colleagues());
      boolean usual = it.colleagues() > 0 && it.having() * 2 >= it.colleagues();
      return new Recommendation(
          Verdict.REMOVE,
          reasons,
          sure ? Certainty.HIGH : usual ? Certainty.LOW : Certainty.MODERATE);
    }
    boolean partly = it.needed() * 2 < it.takes() - it.unobserved();
    reasons.add(partly ? Reason.PARTLY_USED : Reason.USED);
    addMarks(it, reasons);
    return partly && it.direct()
        ? new Recommendation(Verdict.REDUCE, reasons, Certainty.MODERATE)
        : new Recommendation(
            Verdict.KEEP,
            reasons,
            it.conflict() || it.leftOver() || partly ? Certainty.LOW : Certainty.HIGH);
  }

  private static Recommendation ofNothing(Evidence it) {
    if (!it.begun()) {
      return new Recommendation(Verdict.KEEP, List.of(Reason.NOT_BEGUN), Certainty.LOW);
    }
    if (it.stays() == 0) {
      return new Recommendation(Verdict.REMOVE, List.of(Reason.GIVES_NOTHING), Certainty.HIGH);
    }
    // what is shared stays, so that the single one goes
    return it.direct()
        ? new Recommendation(Verdict.REMOVE, List.of(Reason.DOUBLED), Certainty.HIGH)
        : new Recommendation(Verdict.KEEP, List.of(Reason.DOUBLED), Certainty.MODERATE);
  }

  private static void addMarks(Evidence it, List<Reason> reasons) {
    if (it.leftOver()) {
      reasons.add(Reason.LEFT_OVER);
    }
    if (it.conflict()) {
      reasons.add(Reason.CONFLICT);
    }
    if (it.colleagues() > 0) {
      reasons.add(
          it.having() * 2 < it.colleagues() ? Reason.FEW_COLLEAGUES : Reason.MANY_COLLEAGUES);
    }
  }
}
