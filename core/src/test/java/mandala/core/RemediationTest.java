package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.Resource;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.remediation.Additions;
import mandala.core.remediation.Remediation;
import mandala.core.remediation.Removals;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * What would give an access gives it; what must go for it to end ends it, and nothing less does.
 */
class RemediationTest {

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 60));
  }

  /** Questions of a model with a verdict that is wanted. */
  private static List<Question> questions(
      AccessModel model, Engine engine, long seed, boolean allowed) {
    Random random = new Random(seed);
    List<Permission> permissions = List.copyOf(new Catalogue(model).permissions().values());
    List<ResourceKey> places = AllPlaces.of(model);
    Instant at = RandomModels.anyTime(random);
    List<Question> found = new ArrayList<>();
    for (int tried = 0; tried < 4_000 && found.size() < 4; tried++) {
      PrincipalKey who = model.principals().get(random.nextInt(model.principals().size())).key();
      PrincipalKey whom =
          random.nextInt(4) == 0
              ? model.principals().get(random.nextInt(model.principals().size())).key()
              : null;
      Question question =
          new Question(
              who,
              permissions.get(random.nextInt(permissions.size())).key(),
              places.get(random.nextInt(places.size())),
              at,
              true,
              who.equals(whom) ? null : whom);
      Verdict verdict = engine.decide(question).verdict();
      boolean fits =
          allowed
              ? verdict == Verdict.ALLOWED
              : verdict != Verdict.ALLOWED && verdict != Verdict.NOT_APPLICABLE;
      if (fits) {
        found.add(question);
      }
    }
    return found;
  }

  private static Verdict after(Engine engine, Draft draft, Question question) {
    AccessModel model = engine.after(draft.inOrder()).catalogue().model();
    return new Reference(model).verdict(question);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatMustGoEndsTheAccessAndNothingLessDoes(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    for (Question question : questions(model, engine, seed, true)) {
      List<Remediation> ways = Removals.of(engine, question);
      assertThat(ways).as("one deny always ends %s", question).isNotEmpty();
      for (Remediation way : ways) {
        assertThat(after(engine, way.draft(), question))
            .as("%s after %s", question, way.draft())
            .isNotEqualTo(Verdict.ALLOWED);
        boolean switchesOff =
            way.draft().changes().stream()
                .anyMatch(it -> it.things().getFirst() instanceof Activation);
        for (Change change : way.draft().changes()) {
          if (!switchesOff) { // what was switched on goes with its assignment
            assertNeeded(engine, way.draft(), change, question);
          }
        }
      }
    }
  }

  private static void assertNeeded(Engine engine, Draft draft, Change change, Question question) {
    Draft less = Draft.of(draft.changes().stream().filter(it -> !it.equals(change)).toList());
    try {
      assertThat(after(engine, less, question))
          .as("%s: %s goes beyond what must go in %s", question, change, draft)
          .isEqualTo(Verdict.ALLOWED);
    } catch (IllegalArgumentException _) {
      // without it the model has faults, so that it belongs to another change
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatWouldGiveItGivesIt(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    for (Question question : questions(model, engine, seed, false)) {
      List<Remediation> ways = Additions.of(engine, question);
      for (Remediation way : ways) {
        assertThat(after(engine, way.draft(), question))
            .as("%s after %s", question, way.draft())
            .isEqualTo(Verdict.ALLOWED);
      }
      if (isSimple(engine, question)) {
        assertThat(ways).as("an assignment of exactly %s", question).isNotEmpty();
      }
    }
  }

  /** Where nothing stands against it but that it is not given. */
  private static boolean isSimple(Engine engine, Question question) {
    Catalogue catalogue = engine.catalogue();
    return question.actingFor() == null
        && engine.decide(question).verdict() == Verdict.NONE
        && catalogue.permissions().values().stream().allMatch(it -> it.requires().isEmpty())
        && catalogue.model().accounts().stream().noneMatch(Account::suspended)
        && !isSealedOff(catalogue, question.resource());
  }

  private static boolean isSealedOff(Catalogue catalogue, ResourceKey resource) {
    for (ResourceKey at = resource; at != null; at = catalogue.parentOf(at)) {
      Resource it = catalogue.resources().get(at);
      if (it != null && it.sealed()) {
        return true;
      }
    }
    return false;
  }
}
