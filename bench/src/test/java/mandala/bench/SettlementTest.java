package mandala.bench;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.HashSet;
import java.util.List;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Kind;
import mandala.core.model.Term;
import mandala.core.model.check.ModelCheck;
import mandala.core.question.Decision;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;
import org.junit.jupiter.api.Test;

/** The generated models are sound, use everything, and the ways to answer agree on them. */
class SettlementTest {

  private static final AccessModel VILLAGE = Settlement.of(Size.VILLAGE, 3);
  private static final World WORLD = new World(VILLAGE, Engine.of(VILLAGE));

  @Test
  void aVillageHasNoFaultsAndIsTheSameEachTime() {
    assertThat(ModelCheck.faultsOf(VILLAGE)).isEmpty();
    assertThat(Settlement.of(Size.VILLAGE, 3)).isEqualTo(VILLAGE);
    assertThat(Settlement.of(Size.VILLAGE, 4)).isNotEqualTo(VILLAGE);
    assertThat(VILLAGE.assignments()).hasSize(Size.VILLAGE.assignments);
  }

  @Test
  void everythingThatDecidesIsInUse() {
    for (Kind kind : Kind.values()) {
      if (kind != Kind.EXCLUSIONS && kind != Kind.EXPECTATIONS) {
        assertThat(VILLAGE.things(kind)).as(kind.word()).isNotEmpty();
      }
    }
    Set<Class<?>> terms = new HashSet<>();
    VILLAGE
        .assignments()
        .forEach(it ->
            it.scope().forEach(clause -> clause.terms().forEach(t -> terms.add(t.getClass()))));
    assertThat(terms)
        .contains(
            Term.Tree.class,
            Term.Only.class,
            Term.OwnUnit.class,
            Term.OwnAccount.class,
            Term.OwnedBy.class,
            Term.InUnit.class,
            Term.InCollection.class,
            Term.Labelled.class,
            Term.OfType.class,
            Term.InAccount.class);
    List<Assignment> all = VILLAGE.assignments();
    assertThat(all).anyMatch(it -> it.effect() == Assignment.Effect.DENY);
    assertThat(all).anyMatch(it -> it.mode() == Assignment.Mode.JUST_IN_TIME);
    assertThat(all).anyMatch(Assignment::crossesSeals);
    assertThat(all).anyMatch(it -> !it.viewScope().isEmpty());
    assertThat(VILLAGE.resources()).anyMatch(it -> it.sealed());
  }

  @Test
  void pointsSheetsColumnsAndRoutesAgree() {
    int allowed = 0;
    for (Question question : WORLD.questions(3_000, 400)) {
      Decision point = WORLD.engine.decideAfresh(question);
      assertThat(
              WORLD
                  .engine
                  .access(question.session())
                  .verdict(question.permission(), question.resource()))
          .as("%s", question)
          .isEqualTo(point.verdict());
      if (allowed < 60 && point.verdict() == Verdict.ALLOWED) {
        allowed++;
        assertThat(
                WORLD
                    .engine
                    .whoCan(
                        WhoQuestion.of(
                            question.permission(), question.resource(), question.at(), true))
                    .allowed())
            .anyMatch(it -> it.principal().equals(question.principal()));
        assertThat(WORLD.routes.explain(question).live()).isNotEmpty();
      }
    }
    assertThat(allowed).isEqualTo(60);
  }
}
