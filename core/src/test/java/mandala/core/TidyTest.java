package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
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
import mandala.core.model.Thing;
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
import mandala.core.tidy.TidyChoice;
import mandala.core.tidy.TidyStep;
import org.junit.jupiter.api.AfterAll;
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

  /** Steps are taken one by one, with what they need: each choice fits and means the same. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void eachChoiceOfStepsMeansTheSame(long seed) {
    AccessModel model = RandomModels.model(seed);
    Tidier.Also also = seed % 2 == 0 ? Tidier.Also.ROLES : Tidier.Also.NOTHING;
    Engine engine = Engine.of(model);
    List<TidyStep> steps = Tidier.of(engine, AT, also).steps();
    Random random = new Random(seed);
    for (int round = 0; round < 4 && !steps.isEmpty(); round++) {
      int share = 1 + random.nextInt(4);
      Set<Integer> chosen = new TreeSet<>(Set.of(random.nextInt(steps.size())));
      for (int i = 0; i < steps.size() && round > 0; i++) {
        if (random.nextInt(share) == 0) {
          chosen.add(i);
        }
      }
      List<Change> changes = TidyChoice.changes(steps, chosen);
      assertThat(changes).containsAll(steps.get(chosen.iterator().next()).changes());
      AccessModel after = Draft.of(changes).appliedUnchecked(engine.catalogue()).model();
      assertThat(ModelCheck.faultsOf(after)).as("choice %s", chosen).isEmpty();
      assertSame(model, after, seed + round);
      assertThat(TidyChoice.meansTheSame(engine, engine.after(changes), AT)).isTrue();
      choices++;
    }
  }

  private static int choices;

  @AfterAll
  static void thereWereChoices() {
    assertThat(choices).as("choices of steps").isPositive();
  }

  /** What may not be touched stays as it is, and is no reason for anything. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void leavesAloneWhatItMayNotTouch(long seed) {
    AccessModel model = RandomModels.model(seed);
    Set<Thing> kept = new HashSet<>();
    Set<Thing> unnamed = new HashSet<>();
    Random random = new Random(seed);
    for (Kind kind : Kind.values()) {
      model.things(kind).stream().filter(_ -> random.nextBoolean()).forEach(kept::add);
      kept.stream().filter(_ -> random.nextBoolean()).forEach(unnamed::add);
    }
    Tidier.Answer answer =
        Tidier.of(
            Engine.of(model),
            AT,
            Tidier.Also.ROLES,
            new Tidier.Bounds(
                it -> !kept.contains(it), it -> !unnamed.contains(it), seed % 3 != 0, () -> {}));
    Set<String> there = new HashSet<>();
    for (Kind kind : Kind.values()) {
      there.addAll(answer.after().things(kind).stream().map(Object::toString).toList());
    }
    assertThat(there).containsAll(kept.stream().map(Object::toString).toList());
    for (TidyStep step : answer.steps()) {
      assertThat(seed % 3 == 0 && step.why() instanceof TidyStep.Why.TakesNothing).isFalse();
      if (step.why() instanceof TidyStep.Why.Covered(AssignmentKey by) && by != null) {
        assertThat(unnamed).noneMatch(it -> by.equals(it.key()));
      }
      if (step.why() instanceof TidyStep.Why.Twin(RoleKey role)) {
        assertThat(unnamed).noneMatch(it -> role.equals(it.key()));
      }
    }
    assertSame(model, answer.after(), seed);
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
