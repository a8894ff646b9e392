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
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.tidy.ModelSize;
import mandala.core.tidy.Tidier;
import mandala.core.tidy.TidyStep;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * A tidier model means the same to the naive reference, and finds what was planted (section 12).
 */
class TidyTest {

  static final Instant AT = Instant.parse("2026-04-15T12:00:00Z");

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 4);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void meansTheSameWithLess(long seed) {
    AccessModel model = RandomModels.model(seed);
    Tidier.Also also = seed % 2 == 0 ? Tidier.Also.ROLES : Tidier.Also.NOTHING;
    Tidier.Answer answer = Tidier.of(Engine.of(model), AT, also);
    assertThat(ModelCheck.faultsOf(answer.after())).isEmpty();
    assertThat(answer.before()).isEqualTo(ModelSize.of(model));
    assertThat(answer.size()).isEqualTo(ModelSize.of(answer.after()));
    assertThat(answer.size().total())
        .isLessThanOrEqualTo(answer.before().total() - answer.steps().size());
    assertSame(model, answer.after(), seed);
    assertThat(Tidier.of(Engine.of(answer.after()), AT, also).steps()).as("twice").isEmpty();
  }

  /** Asks both at every time from the instant on, with some choice of what is activated. */
  static void assertSame(AccessModel before, AccessModel after, long seed) {
    List<Activation> activations = activations(before, seed);
    AccessModel one = with(before, activations);
    AccessModel two = with(after, activations);
    Reference reference = new Reference(one);
    Reference tidied = new Reference(two);
    for (Question question : RandomModels.questions(one, seed, 150)) {
      if (!question.at().isBefore(AT)) {
        assertThat(tidied.verdict(question) == Verdict.ALLOWED)
            .as("seed %d, %s", seed, question)
            .isEqualTo(reference.verdict(question) == Verdict.ALLOWED);
      }
    }
  }

  private static List<Activation> activations(AccessModel model, long seed) {
    Random random = new Random(seed);
    List<Activation> some = new ArrayList<>();
    for (Assignment it : model.assignments()) {
      if (it.mode() == Assignment.Mode.JUST_IN_TIME && random.nextBoolean()) {
        some.add(
            new Activation(
                About.NONE,
                model.principals().get(random.nextInt(model.principals().size())).key(),
                it.key(),
                Window.ALWAYS));
      }
    }
    return some;
  }

  private static AccessModel with(AccessModel model, List<Activation> activations) {
    AccessModel.Builder builder = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      builder.addAll(model.things(kind));
    }
    return builder.addAll(activations).build();
  }

  /** A copy, a narrower copy, a twin of a role, an entry that is implied, a member listed twice. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void findsWhatIsPlanted(long seed) {
    Catalogue clean =
        new Catalogue(
            Tidier.of(Engine.of(RandomModels.model(seed)), AT, Tidier.Also.NOTHING).after());
    List<Change> planted = new ArrayList<>();
    Random random = new Random(seed);
    List<Assignment> assignments =
        clean.model().assignments().stream()
            .filter(it -> it.mode() == Assignment.Mode.STANDING && !it.scope().isEmpty())
            .toList();
    if (!assignments.isEmpty()) {
      Assignment any = assignments.get(random.nextInt(assignments.size()));
      planted.add(new Change.Added(copy(any, "planted-copy", any.scope())));
      Clause narrow = any.scope().getFirst();
      List<Term> terms = new ArrayList<>(narrow.terms());
      if (terms.stream().noneMatch(it -> it instanceof Term.OfType)) {
        terms.add(new Term.OfType(clean.model().resourceTypes().getFirst().key()));
        planted.add(new Change.Added(copy(any, "planted-narrower", List.of(new Clause(terms)))));
      }
    }
    clean.model().roles().stream()
        .filter(it -> !it.retired() && !it.sets().isEmpty())
        .findFirst()
        .ifPresent(it -> planted.add(new Change.Added(twin(it))));
    clean.model().permissionSets().stream()
        .filter(it -> !it.allow().isEmpty())
        .findFirst()
        .ifPresent(it ->
            planted.add(
                new Change.Added(
                    new PermissionSet(
                        new PermissionSetKey("planted-set"),
                        About.NONE,
                        null,
                        it.allow(),
                        List.of(),
                        List.of(it.key())))));
    clean.model().groups().stream()
        .filter(it -> !it.retired() && !it.members().isEmpty())
        .findFirst()
        .ifPresent(it ->
            planted.add(
                new Change.Added(
                    new Group(
                        new GroupKey("planted-group"),
                        About.NONE,
                        it.account(),
                        false,
                        both(it),
                        null,
                        List.of()))));
    Engine engine = Engine.of(Draft.of(planted).appliedUnchecked(clean).model());
    Tidier.Answer answer = Tidier.of(engine, AT, Tidier.Also.NOTHING);
    Catalogue after = new Catalogue(answer.after());
    assertThat(after.assignments().containsKey(new AssignmentKey("planted-narrower"))).isFalse();
    assertThat(answer.after().assignments()).hasSameSizeAs(clean.model().assignments());
    PermissionSet set = after.sets().get(new PermissionSetKey("planted-set"));
    assertThat(set == null || set.allow().isEmpty()).isTrue();
    Group group = after.groups().get(new GroupKey("planted-group"));
    assertThat(group == null || group.members().size() == 1).isTrue();
    if (planted.stream().anyMatch(it -> it.things().getFirst() instanceof Role)) {
      assertThat(answer.steps()).anyMatch(it -> it.why() instanceof TidyStep.Why.Twin);
    }
    assertSame(engine.catalogue().model(), answer.after(), seed);
  }

  private static List<Group.Member> both(Group inner) {
    List<Group.Member> members = new ArrayList<>(inner.members());
    members.add(new Group.Member.OfGroup(inner.key()));
    return members;
  }

  private static Assignment copy(Assignment it, String key, List<Clause> scope) {
    return new Assignment(
        new AssignmentKey(key),
        it.about(),
        it.subject(),
        it.gives(),
        it.effect(),
        scope,
        List.of(),
        it.window(),
        Assignment.Mode.STANDING,
        it.crossesSeals());
  }

  private static Role twin(Role it) {
    return new Role(
        new RoleKey("planted-twin"),
        About.NONE,
        it.account(),
        "PT",
        null,
        false,
        it.sets(),
        it.inherits(),
        it.requiresMfa(),
        List.of(),
        null,
        null,
        List.of());
  }
}
