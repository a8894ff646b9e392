package mandala.server.review;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.RandomModels;
import mandala.core.change.Removal;
import mandala.core.engine.Engine;
import mandala.core.model.Permission;
import mandala.core.question.Session;
import mandala.core.review.ItemStudy;
import mandala.core.review.ReviewItem;
import mandala.core.review.ReviewItems;
import mandala.core.review.ReviewScope;
import mandala.document.TroubleText;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * No decision is without effect: each is in force after the changes, or comes back with a reason,
 * and nobody keeps what a removal was to take where it did not come back.
 */
class CarryPlanTest {

  private static final Instant AT = Instant.parse("2026-04-15T12:00:00Z");
  private static final ReviewScope ALL =
      new ReviewScope(
          EnumSet.allOf(ReviewScope.Content.class), Set.of(), null, Permission.Risk.LOW);
  private static final Map<String, Integer> MET = new HashMap<>();

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 4);
  }

  @AfterAll
  static void eachOutcomeWasMet() {
    assertThat(MET).containsKeys("taken", "settled", CarryPlan.UNFIT, CarryPlan.CHANGED);
  }

  private static void met(String what) {
    MET.merge(what, 1, Integer::sum);
  }

  private static RoundItem decided(
      int number,
      ReviewItem it,
      String facts,
      boolean control,
      String verdict,
      @Nullable String changes,
      @Nullable Long expected) {
    return new RoundItem(
        1,
        number,
        it,
        TroubleText.kind(it.about()).field(),
        it.about().value(),
        null,
        facts,
        null,
        null,
        0,
        null,
        control,
        0,
        "ada",
        null,
        null,
        List.of(),
        null,
        RoundItem.State.DONE,
        false,
        verdict,
        null,
        changes,
        List.of(),
        "ada",
        AT,
        new RoundItem.Effect(expected, null, null, null, null, null, 0));
  }

  private static List<RoundItem> some(ReviewItems items, Engine engine, Random random) {
    ItemStudy study = new ItemStudy(engine, items, AT);
    List<RoundItem> decided = new ArrayList<>();
    for (ReviewItem it : items.in(ALL)) {
      int dice = random.nextInt(20);
      boolean reduce = dice < 3;
      String facts = dice == 4 ? "as it was" : RoundMaker.facts(it, items);
      Instant until = AT.plusSeconds(86_400);
      String way = dice == 0 ? "narrow-scope" : Reductions.END;
      if (dice < 10) {
        decided.add(
            decided(
                decided.size() + 1,
                it,
                facts,
                dice == 5,
                reduce ? "reduce" : "remove",
                reduce ? new DecidedChanges.Reduction(way, until).json() : null,
                reduce || dice == 5 || study.takes(it, List.of()).isEmpty()
                    ? null
                    : Long.valueOf(study.takes(it, List.of()).getAsLong())));
      }
    }
    return decided;
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void eachDecisionIsInForceOrComesBack(long seed) {
    Random random = new Random(seed);
    Engine engine = Engine.of(RandomModels.model(seed));
    ReviewItems items = ReviewItems.of(engine, AT);
    List<RoundItem> decided = some(items, engine, random);
    CarryPlan plan = CarryPlan.of(decided, engine, items, AT, _ -> List.of());
    plan.returned().values().forEach(CarryPlanTest::met);
    Set<Integer> seen = new HashSet<>();
    Engine after = plan.changes().isEmpty() ? engine : engine.after(plan.changes());
    ReviewItems then = ReviewItems.of(after, AT);
    for (RoundItem it : plan.taken()) {
      met("taken");
      assertThat(seen.add(it.number())).isTrue();
      if ("remove".equals(it.verdict())) {
        assertThat(it.item().isIn(after.catalogue())).as("%s", it).isFalse();
      } else if (it.item().isIn(after.catalogue())) {
        assertThat(RoundMaker.facts(it.item(), then)).as("%s", it).isNotEqualTo(it.facts());
      }
      Long expected = it.effect().expected();
      if (expected != null
          && expected > 0
          && new ItemStudy(engine, items, AT).activating(it.item()).isEmpty()
          && !(it.item().removal() instanceof Removal.Undelegate)) {
        Session who = new Session(it.item().whose().orElseThrow(), AT, true, null);
        assertThat(engine.accessAfresh(who).beyond(after.accessAfresh(who)).rights())
            .as("%s took something", it)
            .isPositive();
      }
    }
    for (RoundItem it : plan.settled()) {
      met("settled");
      assertThat(seen.add(it.number())).isTrue();
      assertThat(it.control() || !it.item().isIn(engine.catalogue())).isTrue();
    }
    for (RoundItem it : plan.returned().keySet()) {
      assertThat(seen.add(it.number())).isTrue();
    }
    assertThat(seen).as("each once").hasSize(decided.size());
  }
}
