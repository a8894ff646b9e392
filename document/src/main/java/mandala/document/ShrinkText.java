package mandala.document;

import mandala.core.shrink.ShrinkStep;

/** Says why something may be trimmed. */
public final class ShrinkText {

  private ShrinkText() {}

  /**
   * {@return why a step is safe}, in words that follow a colon
   *
   * @param days of the window
   */
  public static String why(ShrinkStep.Why why, int days) {
    String span = days == 1 ? "1 day" : days + " days";
    return switch (why) {
      case ShrinkStep.Why.NobodyNeedsIt(int people) ->
          people == 0
              ? "it has no active holders"
              : (people == 1
                      ? "its 1 holder did not need it in "
                      : "none of its " + people + " holders needed it in ")
                  + span;
      case ShrinkStep.Why.KeptOtherwise(int people) ->
          counted(people)
              + (people == 1 ? " keeps" : " keep")
              + " what they need through other assignments";
      case ShrinkStep.Why.Narrowed(int people, int needing) ->
          needing
              + " of "
              + counted(people)
              + (needing == 1 ? " keeps" : " keep")
              + " what they need; the rest was not needed in "
              + span;
      case ShrinkStep.Why.NothingByIt _ -> "nothing that it granted was needed in " + span;
    };
  }

  private static String counted(int people) {
    return people == 1 ? "1 holder" : people + " holders";
  }
}
