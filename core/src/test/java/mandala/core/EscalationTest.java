package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.LongStream;
import mandala.core.authority.Authority;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.escalation.EscalationPath;
import mandala.core.escalation.EscalationSearch;
import mandala.core.escalation.Escalators;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Delegation;
import mandala.core.model.Gives;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.Supplied;
import mandala.core.model.Term;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Paths hold when they are replayed, and no shorter one is left out. */
class EscalationTest {

  private static final EscalationSearch.Limits LIMITS = new EscalationSearch.Limits(2, 3_000, 6);

  /** How many paths of each length were replayed: a generator that makes none proves nothing. */
  private static final Map<Integer, Integer> REPLAYED = new TreeMap<>();

  /** Up to so many first changes, all second ones are tried too. */
  private static final int MANY = 60;

  /** How many changes deep the exhaustive search went at most. */
  private static int searched;

  private static int escalators;

  @AfterAll
  static void pathsOfEachLengthWereReplayed() {
    assertThat(REPLAYED.keySet()).contains(1, 2);
    assertThat(searched).isEqualTo(2);
    assertThat(escalators).isPositive();
  }

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 40))
        .filter(seed -> seed % 6 != 0); // types of many permissions would take the search too long
  }

  /** A random model in which people hold rights over the model here and there. */
  static AccessModel model(long seed) {
    AccessModel model = RandomModels.model(seed);
    Random random = new Random(seed * 31 + 7);
    List<ResourceKey> places = AllPlaces.of(model);
    List<PermissionSetKey> sets =
        new Catalogue(model)
            .sets().values().stream()
                .map(PermissionSet::key)
                .filter(it -> it.value().startsWith(Supplied.PREFIX))
                .toList();
    List<Permission> levers =
        Supplied.permissions(model.resourceTypes()).stream()
            .filter(it -> it.accessClass() == Permission.AccessClass.ADMINISTER)
            .toList();
    AccessModel.Builder more = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      more.addAll(model.things(kind));
    }
    for (int i = 0; i < 6; i++) {
      Principal who = model.principals().get(random.nextInt(model.principals().size()));
      ResourceKey place =
          i % 2 == 0 ? ResourceKey.of(who.account()) : places.get(random.nextInt(places.size()));
      Gives gives =
          i == 0
              ? new Gives.OfSet(sets.get(random.nextInt(sets.size())))
              : new Gives.OfPermission(levers.get(random.nextInt(levers.size())).key());
      more.add(
          new Assignment(
              new AssignmentKey("lever." + i),
              About.NONE,
              new Subject.OfPrincipal(who.kind(), who.key()),
              gives,
              Assignment.Effect.ALLOW,
              List.of(Clause.of(new Term.Tree(place))),
              List.of(),
              Window.ALWAYS,
              i == 5 ? Assignment.Mode.JUST_IN_TIME : Assignment.Mode.STANDING,
              false));
    }
    // somebody who may approve everything
    Principal first = model.principals().getFirst();
    Principal approver = Somebody.at(first.account(), new PrincipalKey("approver"), true);
    more.add(approver);
    for (Account it : model.accounts()) {
      if (!it.key().equals(approver.account())) {
        more.add(new Guest(About.NONE, approver.key(), it.key(), true, Window.ALWAYS, null));
      }
    }
    more.add(
        new Assignment(
            new AssignmentKey("approves"),
            About.NONE,
            new Subject.OfPrincipal(approver.kind(), approver.key()),
            new Gives.OfPermission(Supplied.DRAFT_APPROVE),
            Assignment.Effect.ALLOW,
            List.of(Clause.of(new Term.Everything())),
            List.of(),
            Window.ALWAYS,
            Assignment.Mode.STANDING,
            true));
    return more.build();
  }

  /** Questions about people who may change something. */
  static List<Question> questions(AccessModel model, Engine engine, long seed) {
    Random random = new Random(seed);
    Instant at = RandomModels.anyTime(random);
    List<Permission> permissions = List.copyOf(engine.catalogue().permissions().values());
    List<ResourceKey> places = AllPlaces.of(model);
    List<PrincipalKey> able = new ArrayList<>();
    for (Assignment it : model.assignments()) {
      if (it.key().value().startsWith("lever.")
          && it.subject() instanceof Subject.OfPrincipal(var _, PrincipalKey key)
          && engine.isActive(key, at)) {
        able.add(key);
      }
    }
    if (able.isEmpty()) {
      return List.of();
    }
    List<Question> found = new ArrayList<>();
    for (int tried = 0; tried < 2_000 && found.size() < 4; tried++) {
      Question question =
          new Question(
              able.get(random.nextInt(able.size())),
              permissions.get(random.nextInt(permissions.size())).key(),
              places.get(random.nextInt(places.size())),
              at,
              true,
              null);
      Verdict verdict = engine.decide(question).verdict();
      if (verdict == Verdict.NONE || verdict == Verdict.BLOCKED || verdict == Verdict.DENIED) {
        found.add(question);
      }
    }
    return found;
  }

  private static Session session(Engine engine, Question question) {
    Principal who =
        engine
            .catalogue()
            .principals()
            .the(engine.catalogue().principals().require(question.principal()));
    return new Session(who.key(), question.at(), who.enrolled(), null);
  }

  /**
   * The model after a change that its author has the rights for, null where section 11 forbids it.
   */
  private static @Nullable Engine applied(Engine engine, Change change, Session session) {
    try {
      Authority authority = Authority.of(engine, Draft.of(List.of(change)), session);
      return authority.refusals().isEmpty() ? engine.after(List.of(change)) : null;
    } catch (IllegalArgumentException _) {
      return null; // it does not fit, or leaves a faulty model
    }
  }

  /** Whether no account loses its last owner, and somebody could approve where somebody must. */
  private static boolean mayStand(Engine engine, Engine after, Change change, Session session) {
    Draft draft = Draft.of(List.of(change));
    Authority authority = Authority.of(engine, draft, session);
    return authority.ownerless(after).isEmpty()
        && (!authority.whoCouldApprove().isEmpty()
            || new SecondApproval(engine).reasons(after, draft, session).isEmpty());
  }

  private static List<Question> ways(Engine engine, Question question) {
    boolean mfa = session(engine, question).mfa();
    List<@Nullable PrincipalKey> whom = new ArrayList<>();
    whom.add(null);
    for (Delegation it : engine.catalogue().model().delegations()) {
      if (it.delegate().equals(question.principal())) {
        whom.add(it.principal());
      }
    }
    return whom.stream()
        .map(each ->
            new Question(
                question.principal(),
                question.permission(),
                question.resource(),
                question.at(),
                mfa,
                each))
        .toList();
  }

  private static boolean decided(Engine engine, Question question) {
    return ways(engine, question).stream().anyMatch(it -> engine.decide(it).allowed());
  }

  private static boolean reached(Engine engine, Question question) {
    Reference reference = new Reference(engine.catalogue().model());
    return ways(engine, question).stream().anyMatch(it -> reference.verdict(it) == Verdict.ALLOWED);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void pathsHoldWhenReplayed(long seed) {
    AccessModel model = model(seed);
    Engine engine = Engine.of(model);
    for (Question question : questions(model, engine, seed)) {
      EscalationSearch.Answer answer = EscalationSearch.of(engine, question, LIMITS);
      for (EscalationPath path : answer.paths()) {
        Engine now = engine;
        for (EscalationPath.Step step : path.steps()) {
          if (step
              instanceof
              EscalationPath.Step.Makes(Change change, var uses, var reasons, var approvers)) {
            Session session = session(now, question);
            Engine after = applied(now, change, session);
            assertThat(after).as("%s: %s of %s", question, change, path).isNotNull();
            assertThat(mayStand(now, after, change, session)).isTrue();
            assertThat(reasons)
                .isEqualTo(
                    new SecondApproval(now).reasons(after, Draft.of(List.of(change)), session));
            assertThat(approvers.isEmpty()).isEqualTo(reasons.isEmpty());
            Engine before = now;
            assertThat(uses)
                .allMatch(demand ->
                    demand.anyOf().stream()
                        .anyMatch(
                            it -> before.decide(session.asks(demand.permission(), it)).allowed()));
            now = Engine.of(after.catalogue().model());
          }
        }
        assertThat(reached(now, question)).as("%s by %s", question, path).isTrue();
        REPLAYED.merge(path.changes().size(), 1, Integer::sum);
      }
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void noShorterPathIsLeftOut(long seed) {
    AccessModel model = model(seed);
    Engine engine = Engine.of(model);
    for (Question question : questions(model, engine, seed).stream().limit(2).toList()) {
      EscalationSearch.Answer answer = EscalationSearch.of(engine, question, LIMITS);
      int length =
          answer.paths().isEmpty()
              ? LIMITS.changes() + 1
              : answer.paths().getFirst().changes().size();
      if (!answer.whole()) {
        continue; // it says so itself
      }
      List<Change> shorter = shorter(engine, question, length - 1);
      assertThat(shorter).as("%s with fewer than %d changes", question, length).isNull();
    }
  }

  /** Asked about everybody at once, those are found who are found one by one, with their paths. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void everybodyWhoCouldIsFound(long seed) {
    AccessModel model = model(seed);
    Engine engine = Engine.of(model);
    for (Question question : questions(model, engine, seed).stream().limit(1).toList()) {
      everybodyIsFound(model, engine, question);
    }
  }

  private static void everybodyIsFound(AccessModel model, Engine engine, Question question) {
    EscalationSearch.Limits limits = EscalationSearch.Limits.EACH.withChanges(1);
    Map<PrincipalKey, EscalationSearch.Answer> expected = new HashMap<>();
    for (Principal who : model.principals()) {
      EscalationSearch.Answer answer =
          EscalationSearch.of(
              engine,
              new Question(
                  who.key(), question.permission(), question.resource(), question.at(), true, null),
              limits);
      if (!answer.paths().isEmpty()) {
        expected.put(who.key(), answer);
      }
    }
    List<Escalators.Escalator> found =
        new Escalators(engine, question.at())
            .toward(question.permission(), question.resource(), limits, Impact.Watch.TO_THE_END);
    assertThat(found).extracting(Escalators.Escalator::who).doesNotHaveDuplicates();
    Map<PrincipalKey, EscalationSearch.Answer> all = new HashMap<>();
    found.forEach(it -> all.put(it.who(), it.answer()));
    assertThat(all).isEqualTo(expected);
    assertThat(found)
        .isSortedAccordingTo(
            Comparator.comparingInt(it -> it.answer().paths().getFirst().changes().size()));
    escalators += found.size();
  }

  /** Any changes that reach it, at most so many, null where there are none. */
  private static @Nullable List<Change> shorter(Engine engine, Question question, int most) {
    List<PrincipalKey> holders =
        engine
            .whoCan(WhoQuestion.of(question.permission(), question.resource(), question.at(), true))
            .allowed()
            .stream()
            .map(it -> it.principal())
            .filter(it -> engine.catalogue().principals().containsKey(it))
            .toList();
    return most < 0 ? null : search(engine, question, holders, most, List.of());
  }

  private static @Nullable List<Change> search(
      Engine engine, Question question, List<PrincipalKey> holders, int left, List<Change> made) {
    if (decided(engine, question) && reached(engine, question)) {
      return made;
    }
    if (left > 0) {
      Session session = session(engine, question);
      Map<Change, Engine> next = new LinkedHashMap<>();
      for (Change change : AllChanges.of(engine, session.principal(), question.at(), holders)) {
        Engine after = applied(engine, change, session);
        boolean last = after != null && left == 1;
        if (after != null
            && (!last || decided(after, question))
            && mayStand(engine, after, change, session)) {
          next.put(change, after);
        }
      }
      if (left > 1 && next.size() > MANY) {
        return null; // whoever may do almost anything would take hours
      }
      searched = Math.max(searched, made.size() + 1);
      for (Map.Entry<Change, Engine> each : next.entrySet()) {
        List<Change> more = new ArrayList<>(made);
        more.add(each.getKey());
        List<Change> found = search(each.getValue(), question, holders, left - 1, more);
        if (found != null) {
          return found;
        }
      }
    }
    return null;
  }
}
