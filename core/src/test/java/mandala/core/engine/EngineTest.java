package mandala.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.RandomModels;
import mandala.core.evaluate.CandidateGrants;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.present.Access;
import mandala.core.question.Decision;
import mandala.core.question.Question;
import mandala.core.question.RoleHolder;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** The engine's smaller questions, and what it says of what is not in the model. */
class EngineTest {

  private static final PrincipalKey NOBODY = new PrincipalKey("nobody");
  private static final PermissionKey NOTHING = new PermissionKey("nothing");
  private static final ResourceKey NOWHERE = new ResourceKey("nowhere");
  private static final Instant LONG_AGO = Instant.parse("1970-01-01T00:00:00Z");

  static LongStream seeds() {
    return LongStream.rangeClosed(1, 40);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whoHoldsARoleIsWhoeverIsFoundToHoldIt(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Instant at = RandomModels.questions(model, seed, 1).getFirst().at();
    Map<RoleKey, Integer> use = new HashMap<>();
    for (Role role : engine.catalogue().roles().values()) {
      Set<PrincipalKey> holders = new HashSet<>();
      for (Principal it : model.principals()) {
        if (engine.rolesHeld(it.key(), at).contains(role.key())) {
          holders.add(it.key());
        }
      }
      List<RoleHolder> found = engine.roleHolders(role.key(), at);
      assertThat(found)
          .extracting(RoleHolder::principal)
          .containsExactlyInAnyOrderElementsOf(holders);
      for (RoleHolder it : found) {
        assertThat(it.byBridge() || !it.through().isEmpty()).isTrue();
        assertThat(it.through()).allMatch(by -> engine.hasSubject(it.principal(), by, at));
      }
      long active = holders.stream().filter(it -> engine.isActive(it, at)).count();
      if (active > 0) {
        use.put(role.key(), (int) active);
      }
    }
    assertThat(engine.roleUse(at, it -> engine.isActive(it.key(), at))).isEqualTo(use);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whoHasASubjectIsWhoeverIsFoundToHaveIt(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Instant at = RandomModels.questions(model, seed, 1).getFirst().at();
    List<Subject> subjects = new ArrayList<>(List.of(Subject.Public.values()));
    model.groups().forEach(it -> subjects.add(new Subject.OfGroup(it.key())));
    model.accounts().forEach(it -> subjects.add(new Subject.OfAccount(it.key())));
    model.patterns().forEach(it -> subjects.add(new Subject.OfPattern(it.key())));
    for (Subject subject : subjects) {
      List<Principal> having =
          model.principals().stream()
              .filter(it -> engine.hasSubject(it.key(), subject, at))
              .toList();
      assertThat(engine.having(subject, at))
          .as("%s", subject)
          .containsExactlyInAnyOrderElementsOf(having);
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatIsKeptAnswersAsWhatIsMadeAfresh(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    List<Question> questions = RandomModels.questions(model, seed, 60);
    for (int round = 0; round < 3; round++) {
      for (Question question : questions) {
        Decision afresh = engine.decideAfresh(question);
        for (int i = 0; i < 18; i++) { // asked often enough to be kept
          assertThat(engine.decide(question)).as("%s", question).isEqualTo(afresh);
        }
      }
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void countsOfOneAndOfAllAddUp(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Random random = new Random(seed);
    List<Session> sessions = new ArrayList<>();
    long sum = 0;
    for (Principal principal : model.principals()) {
      Session session =
          new Session(principal.key(), RandomModels.anyTime(random), random.nextBoolean(), null);
      sessions.add(session);
      Access access = engine.accessAfresh(session);
      assertThat(engine.rights(session)).isEqualTo(access.rights());
      assertThat(engine.access(session).rights()).isEqualTo(access.rights());
      sum += access.rights();
    }
    for (var it : model.delegations()) {
      Session session = new Session(it.delegate(), LONG_AGO, true, it.principal());
      sessions.add(session);
      sum += engine.access(session).rights();
      assertThat(engine.rights(session)).isEqualTo(engine.access(session).rights());
    }
    assertThat(engine.rightsOfAll(sessions)).isEqualTo(sum);
    List<Session> many = new ArrayList<>();
    for (int i = 0; i < 50; i++) {
      many.addAll(sessions);
    }
    assertThat(engine.rightsOfAll(many)).isEqualTo(sum * 50);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whoIsActiveIsWhoIsNotAnsweredInactive(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Random random = new Random(seed);
    PermissionKey any = model.permissions().getFirst().key();
    ResourceKey place = ResourceKey.of(model.accounts().getFirst().key());
    for (Principal principal : model.principals()) {
      Instant at = RandomModels.anyTime(random);
      Verdict verdict =
          engine.decide(new Question(principal.key(), any, place, at, false, null)).verdict();
      assertThat(engine.isActive(principal.key(), at)).isEqualTo(verdict != Verdict.INACTIVE);
    }
    assertThat(engine.isActive(PrincipalKey.ANONYMOUS, LONG_AGO)).isTrue();
    assertThat(engine.isActive(NOBODY, LONG_AGO)).isFalse();
  }

  /** Of what a principal is assigned itself: the roles of assignments in force, each once. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void rolesAssignedToOneselfAreHeldWhileTheyAreInForce(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    for (Principal principal : model.principals()) {
      for (Instant at : List.of(LONG_AGO, Instant.parse("2026-04-15T12:00:00Z"))) {
        Set<RoleKey> own = new LinkedHashSet<>();
        Set<RoleKey> others = new LinkedHashSet<>();
        for (Assignment it : model.assignments()) {
          boolean itself =
              it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)
                  && key.equals(principal.key());
          if (it.gives() instanceof Gives.OfRole(RoleKey role)) {
            (itself && it.window().holdsAt(at) && covers(it) ? own : others).add(role);
          }
        }
        model.bridges().stream()
            .filter(it -> it.gives() instanceof Gives.OfRole)
            .forEach(it -> others.add(((Gives.OfRole) it.gives()).key()));
        List<RoleKey> held = engine.rolesHeld(principal.key(), at);
        assertThat(held).containsAll(own).doesNotHaveDuplicates();
        assertThat(held).allMatch(role -> own.contains(role) || others.contains(role));
      }
    }
    assertThatThrownBy(() -> engine.rolesHeld(NOBODY, LONG_AGO)).hasMessageContaining("nobody");
  }

  /** Whether some clause is read as lines at all: one that covers nothing holds nothing. */
  private static boolean covers(Assignment it) {
    return !it.scope().isEmpty();
  }

  @Test
  void whatIsNotInTheModelIsNamedInTheAnswer() {
    AccessModel model = RandomModels.model(1);
    Engine engine = Engine.of(model);
    Principal someone = model.principals().getFirst();
    Permission something = model.permissions().getFirst();
    ResourceKey somewhere = ResourceKey.of(model.accounts().getFirst().key());
    for (PrincipalKey actingFor : new PrincipalKey[] {null, model.principals().getLast().key()}) {
      assertThat(
              engine.decide(
                  new Question(someone.key(), NOTHING, somewhere, LONG_AGO, false, actingFor)))
          .isEqualTo(Decision.error("there is no permission 'nothing'"));
      assertThat(
              engine.decide(
                  new Question(
                      someone.key(), something.key(), NOWHERE, LONG_AGO, false, actingFor)))
          .isEqualTo(Decision.error("there is no resource 'nowhere'"));
    }
    assertThat(
            engine
                .decide(new Question(NOBODY, something.key(), somewhere, LONG_AGO, false, null))
                .reason())
        .contains("nobody");
    assertThatThrownBy(() -> engine.access(new Session(NOBODY, LONG_AGO, false, null)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("nobody");
    for (WhoQuestion question :
        List.of(
            WhoQuestion.of(NOTHING, somewhere, LONG_AGO, false),
            WhoQuestion.of(something.key(), NOWHERE, LONG_AGO, false),
            new WhoQuestion(
                Set.of(something.key()),
                new WhoQuestion.Where.Within(new CollectionKey("no-such")),
                LONG_AGO,
                false))) {
      assertThatThrownBy(() -> engine.whoCan(question))
          .isInstanceOf(IllegalArgumentException.class)
          .hasMessageStartingWith("There is no");
    }
    assertThatThrownBy(() -> engine.bearing(List.of(), NOTHING, somewhere))
        .hasMessage("There is no permission 'nothing'");
    assertThatThrownBy(() -> engine.givenToOthers(List.of(), something.key(), NOWHERE, 3))
        .hasMessage("There is no resource 'nowhere'");
  }

  @Test
  void whatOthersAreGivenIsToldUpToALimitAndTheRestCounted() {
    int found = 0;
    for (long seed = 1; seed <= 60; seed++) {
      AccessModel model = RandomModels.model(seed);
      Engine engine = Engine.of(model);
      for (Question it : RandomModels.questions(model, seed, 10)) {
        if (!engine.catalogue().permissions().containsKey(it.permission())) {
          continue;
        }
        CandidateGrants.Others all =
            engine.givenToOthers(List.of(), it.permission(), it.resource(), 1_000);
        assertThat(all.more()).isZero();
        CandidateGrants.Others one =
            engine.givenToOthers(List.of(), it.permission(), it.resource(), 1);
        assertThat(all.assignments()).containsAll(one.assignments());
        if (!all.assignments().isEmpty()) {
          found++;
          assertThat(one.assignments()).hasSize(1);
          assertThat(one.more()).isGreaterThanOrEqualTo(all.assignments().size() - 1);
          List<Subject> subjects =
              all.assignments().stream().map(Assignment::subject).distinct().toList();
          assertThat(
                  engine.givenToOthers(subjects, it.permission(), it.resource(), 9).assignments())
              .isEmpty();
        }
      }
    }
    assertThat(found).isGreaterThan(50);
  }
}
