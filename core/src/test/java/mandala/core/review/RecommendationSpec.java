package mandala.core.review;

import static mandala.core.review.Recommendation.Certainty.HIGH;
import static mandala.core.review.Recommendation.Certainty.LOW;
import static mandala.core.review.Recommendation.Certainty.MODERATE;
import static mandala.core.review.Recommendation.Verdict.KEEP;
import static mandala.core.review.Recommendation.Verdict.REDUCE;
import static mandala.core.review.Recommendation.Verdict.REMOVE;
import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import mandala.core.review.Recommendation.Reason;
import org.junit.jupiter.api.Test;

/** What is recommended, why, and how sure it is. */
class RecommendationSpec {

  private static Recommendation of(
      long takes, long stays, long needed, long unobserved, boolean direct) {
    return Recommendation.of(
        new Recommendation.Evidence(
            true, true, direct, takes, stays, 0, needed, unobserved, 0, 0, false, false));
  }

  private static Recommendation compared(int colleagues, int having, boolean left, boolean broken) {
    return Recommendation.of(
        new Recommendation.Evidence(
            true, true, true, 10, 0, 0, 0, 0, colleagues, having, left, broken));
  }

  @Test
  void whoeverIsGoneKeepsNothing() {
    Recommendation it =
        Recommendation.of(
            new Recommendation.Evidence(false, true, false, 5, 0, 0, 5, 0, 4, 4, false, false));
    assertThat(it.verdict()).isEqualTo(REMOVE);
    assertThat(it.reasons()).containsExactly(Reason.INACTIVE);
  }

  @Test
  void whatGivesNothingGoes() {
    assertThat(of(0, 0, 0, 0, false))
        .isEqualTo(new Recommendation(REMOVE, List.of(Reason.GIVES_NOTHING), HIGH));
  }

  @Test
  void whatDeniesSomethingTooIsNotRecommendedToGo() {
    Recommendation it =
        Recommendation.of(
            new Recommendation.Evidence(true, true, true, 5, 0, 3, 0, 0, 0, 0, false, false));
    assertThat(it.verdict()).isEqualTo(KEEP);
    assertThat(it.reasons()).containsExactly(Reason.DENIES);
  }

  @Test
  void whatBeginsLaterStays() {
    Recommendation it =
        Recommendation.of(
            new Recommendation.Evidence(true, false, true, 0, 0, 0, 0, 0, 0, 0, false, false));
    assertThat(it.verdict()).isEqualTo(KEEP);
    assertThat(it.reasons()).containsExactly(Reason.NOT_BEGUN);
  }

  @Test
  void ofTwoThatGiveTheSameTheirOwnGoesAndTheSharedStays() {
    assertThat(of(0, 7, 0, 0, true).verdict()).isEqualTo(REMOVE);
    assertThat(of(0, 7, 0, 0, false).verdict()).isEqualTo(KEEP);
    assertThat(of(0, 7, 0, 0, false).reasons()).containsExactly(Reason.DOUBLED);
  }

  @Test
  void whatNobodyReportsIsLeftToTheReviewer() {
    Recommendation it = of(5, 0, 0, 5, true);
    assertThat(it.verdict()).isEqualTo(KEEP);
    assertThat(it.certainty()).isEqualTo(LOW);
    assertThat(it.reasons()).contains(Reason.NOT_OBSERVED);
  }

  @Test
  void whatIsUnusedGoesTheSurerTheFewerColleaguesHaveIt() {
    assertThat(compared(0, 0, false, false).certainty()).isEqualTo(MODERATE);
    assertThat(compared(8, 1, false, false).certainty()).isEqualTo(HIGH);
    assertThat(compared(8, 7, false, false).certainty()).isEqualTo(LOW);
    assertThat(compared(8, 7, true, false).certainty()).isEqualTo(HIGH);
    assertThat(compared(8, 1, true, true).reasons())
        .containsExactly(Reason.UNUSED, Reason.LEFT_OVER, Reason.CONFLICT, Reason.FEW_COLLEAGUES);
    assertThat(compared(8, 1, true, true).verdict()).isEqualTo(REMOVE);
  }

  @Test
  void whatIsUsedStaysAndWhatIsUsedALittleIsReduced() {
    assertThat(of(10, 0, 8, 0, true).verdict()).isEqualTo(KEEP);
    assertThat(of(10, 0, 8, 0, true).certainty()).isEqualTo(HIGH);
    assertThat(of(10, 0, 2, 0, true).verdict()).isEqualTo(REDUCE);
    assertThat(of(10, 0, 2, 0, false).verdict()).as("a membership is whole").isEqualTo(KEEP);
    assertThat(of(10, 0, 2, 7, true).verdict()).as("the rest nobody reports").isEqualTo(KEEP);
  }
}
