package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import java.util.stream.LongStream;
import mandala.core.engine.Engine;
import mandala.core.explain.Explanation;
import mandala.core.explain.Routes;
import mandala.core.model.AccessModel;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AssignmentKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Engine, whole access, routes and the naive reference say the same on random models. */
class AgreementTest {

  private static final int QUESTIONS = 40;

  /** {@code -Dmandala.seeds=20000} asks about more models than the ordinary run. */
  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400));
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void allFourAgree(long seed) {
    AccessModel model = RandomModels.model(seed);
    assertThat(ModelCheck.faultsOf(model)).isEmpty();
    Engine engine = Engine.of(model);
    Routes routes = Routes.of(engine);
    Reference reference = new Reference(model);
    for (Question question : RandomModels.questions(model, seed, QUESTIONS)) {
      Verdict expected = reference.verdict(question);
      String fault = disagreement(engine, routes, question, expected);
      if (fault != null) {
        AccessModel small = Reduction.of(model, it -> disagrees(it, question));
        throw new AssertionError(
            "seed " + seed + ": " + fault + "\n" + question + "\nin the reduced model\n" + small);
      }
    }
  }

  private static boolean disagrees(AccessModel model, Question question) {
    Engine engine = Engine.of(model);
    Verdict expected = new Reference(model).verdict(question);
    return disagreement(engine, Routes.of(engine), question, expected) != null;
  }

  private static String disagreement(
      Engine engine, Routes routes, Question question, Verdict expected) {
    Verdict decided = engine.decide(question).verdict();
    if (decided != expected) {
      return "the reference says " + expected + ", the engine " + decided;
    }
    if (expected == Verdict.ERROR) {
      return null;
    }
    Verdict swept =
        engine.access(question.session()).verdict(question.permission(), question.resource());
    if (swept != expected) {
      return "the reference says " + expected + ", the whole access " + swept;
    }
    if (expected == Verdict.NOT_APPLICABLE) {
      return null;
    }
    Explanation explanation = routes.explain(question);
    return explanation.allowed() == (expected == Verdict.ALLOWED)
        ? null
        : "the verdict is " + expected + ", the routes " + explanation.live();
  }

  @Test
  void theQuestionsReachEveryVerdict() {
    Map<Verdict, Integer> seen = new EnumMap<>(Verdict.class);
    for (long seed = 1; seed <= 60; seed++) {
      AccessModel model = RandomModels.model(seed);
      Engine engine = Engine.of(model);
      RandomModels.questions(model, seed, QUESTIONS)
          .forEach(it -> seen.merge(engine.decide(it).verdict(), 1, Integer::sum));
    }
    assertThat(seen.keySet()).containsExactlyInAnyOrder(Verdict.values());
    assertThat(seen.get(Verdict.ALLOWED)).isGreaterThan(100);
  }

  @Test
  void aReductionKeepsWhatFailsAndDropsTheRest() {
    AccessModel model = RandomModels.model(3);
    AssignmentKey wanted = model.assignments().get(2).key();
    Predicate<AccessModel> hasIt =
        it -> it.assignments().stream().anyMatch(a -> a.key().equals(wanted));
    AccessModel small = Reduction.of(model, hasIt);
    assertThat(small.assignments()).extracting(a -> a.key()).isEqualTo(List.of(wanted));
    assertThat(ModelCheck.faultsOf(small)).isEmpty();
    assertThat(small.size()).isLessThan(model.size());
  }
}
