package mandala.core.engine;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import mandala.core.AllPlaces;
import mandala.core.RandomChanges;
import mandala.core.RandomModels;
import mandala.core.change.Change;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.ResourceCollection;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Difference;
import mandala.core.question.Impact;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;
import mandala.core.whocan.WhoCan;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Questions about everybody say what single verdicts say. */
class EverybodyTest {

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 120));
  }

  private static List<ResourceKey> in(
      AccessModel model, Catalogue catalogue, WhoQuestion.Where where) {
    return AllPlaces.of(model).stream()
        .filter(it ->
            switch (where) {
              case WhoQuestion.Where.On(ResourceKey key) -> it.equals(key);
              case WhoQuestion.Where.Below(ResourceKey top) ->
                  AllPlaces.isUnder(catalogue, it, top);
              case WhoQuestion.Where.Within(CollectionKey key) -> {
                ResourceCollection collection = catalogue.collections().get(key);
                yield collection != null
                    && collection.members().stream()
                        .anyMatch(top -> AllPlaces.isUnder(catalogue, it, top));
              }
            })
        .toList();
  }

  private static List<WhoQuestion> questions(
      AccessModel model, Catalogue catalogue, Random random) {
    List<Permission> permissions = List.copyOf(catalogue.permissions().values());
    List<ResourceKey> resources = AllPlaces.of(model);
    List<WhoQuestion> questions = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      Set<PermissionKey> asked = new HashSet<>();
      for (int n = 0; n <= i % 3; n++) {
        asked.add(permissions.get(random.nextInt(permissions.size())).key());
      }
      ResourceKey resource = resources.get(random.nextInt(resources.size()));
      WhoQuestion.Where where =
          i % 2 == 0 ? new WhoQuestion.Where.On(resource) : new WhoQuestion.Where.Below(resource);
      if (i == 5 && !model.collections().isEmpty()) {
        where = new WhoQuestion.Where.Within(model.collections().getFirst().key());
      }
      questions.add(
          new WhoQuestion(asked, where, RandomModels.anyTime(random), random.nextBoolean()));
    }
    return questions;
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whoCanIsTheTransposeOfWhatCan(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    for (WhoQuestion question : questions(model, engine.catalogue(), new Random(seed))) {
      WhoQuestion.Answer expected = expected(engine, model, question);
      for (int few : new int[] {Integer.MAX_VALUE, -1}) {
        assertThat(new WhoCan(engine.snapshot(), question, few).answer())
            .as("%s, columns up to %d", question, few)
            .isEqualTo(expected);
      }
    }
  }

  private static WhoQuestion.Answer expected(
      Engine engine, AccessModel model, WhoQuestion question) {
    List<ResourceKey> where = in(model, engine.catalogue(), question.where());
    List<WhoQuestion.Holder> allowed = new ArrayList<>();
    List<PrincipalKey> blocked = new ArrayList<>();
    List<PrincipalKey> denied = new ArrayList<>();
    long pairs = 0;
    for (PermissionKey permission : question.permissions()) {
      for (ResourceKey resource : where) {
        Permission it = engine.catalogue().permissions().get(permission);
        pairs += it != null && it.on().contains(engine.catalogue().typeOf(resource)) ? 1 : 0;
      }
    }
    List<Principal> people = new ArrayList<>(model.principals());
    people.sort(java.util.Comparator.comparing(it -> it.key().value()));
    for (Principal principal : people) {
      Session session = new Session(principal.key(), question.at(), question.mfa(), null);
      Map<Verdict, Long> counts = counts(engine, question, where, session);
      if (counts.containsKey(Verdict.ALLOWED)) {
        allowed.add(new WhoQuestion.Holder(principal.key(), counts.get(Verdict.ALLOWED)));
      } else if (counts.containsKey(Verdict.BLOCKED)) {
        blocked.add(principal.key());
      } else if (counts.containsKey(Verdict.DENIED)) {
        denied.add(principal.key());
      }
    }
    allowed.sort(
        java.util.Comparator.comparingLong(WhoQuestion.Holder::rights)
            .reversed()
            .thenComparing(it -> it.principal().value()));
    Session nobody = new Session(PrincipalKey.ANONYMOUS, question.at(), question.mfa(), null);
    return new WhoQuestion.Answer(
        pairs,
        allowed,
        blocked,
        denied,
        counts(engine, question, where, nobody).containsKey(Verdict.ALLOWED),
        delegates(engine, model, question, where));
  }

  private static Map<Verdict, Long> counts(
      Engine engine, WhoQuestion question, List<ResourceKey> where, Session session) {
    Map<Verdict, Long> counts = new HashMap<>();
    for (PermissionKey permission : question.permissions()) {
      for (ResourceKey resource : where) {
        counts.merge(engine.decide(session.asks(permission, resource)).verdict(), 1L, Long::sum);
      }
    }
    return counts;
  }

  private static List<WhoQuestion.Delegate> delegates(
      Engine engine, AccessModel model, WhoQuestion question, List<ResourceKey> where) {
    return model.delegations().stream()
        .filter(it -> {
          Session session =
              new Session(it.delegate(), question.at(), question.mfa(), it.principal());
          return counts(engine, question, where, session).containsKey(Verdict.ALLOWED);
        })
        .map((Delegation it) -> new WhoQuestion.Delegate(it.delegate(), it.principal()))
        .distinct()
        .sorted(
            java.util.Comparator.comparing((WhoQuestion.Delegate it) -> it.actor().value())
                .thenComparing(it -> it.actedFor().value()))
        .toList();
  }

  /** Every right of a session, as text. */
  private static Set<String> rights(Engine engine, Session session) {
    Set<String> rights = new HashSet<>();
    if (!session.principal().equals(PrincipalKey.ANONYMOUS)
        && !engine.catalogue().principals().containsKey(session.principal())) {
      return rights;
    }
    Access access = engine.access(session);
    for (ResourceKey resource : AllPlaces.of(engine.catalogue().model())) {
      for (PermissionKey permission : engine.catalogue().permissions().keySet()) {
        if (access.verdict(permission, resource) == Verdict.ALLOWED) {
          rights.add(permission + " on " + resource);
        }
      }
    }
    return rights;
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void impactIsTheDifferenceOfBeforeAndAfterForEverybody(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    RandomChanges changes = new RandomChanges(seed * 31);
    Random random = new Random(seed);
    for (int step = 0; step < 8; step++) {
      List<Change> change = List.of(changes.next(engine.catalogue().model()));
      Engine after;
      try {
        after = engine.after(change);
      } catch (IllegalArgumentException _) {
        continue;
      }
      var at = RandomModels.anyTime(random);
      Impact impact = engine.impact(after, change, at, true, Impact.Watch.TO_THE_END);
      assertThat(impact.complete()).isTrue();
      assertImpact(engine, after, at, impact, change);
      assertThat(impactOnSome(engine, after, change, at, impact)).isEqualTo(some(impact));
      engine = after;
    }
  }

  /** Every other of the people of an impact. */
  private static List<Impact.Person> some(Impact impact) {
    List<Impact.Person> some = new ArrayList<>();
    for (int i = 0; i < impact.people().size(); i += 2) {
      some.add(impact.people().get(i));
    }
    return some;
  }

  private static List<Impact.Person> impactOnSome(
      Engine before, Engine after, List<Change> change, java.time.Instant at, Impact impact) {
    List<PrincipalKey> people = some(impact).stream().map(Impact.Person::principal).toList();
    Impact on = before.impactOn(after, change, at, true, people, Impact.Watch.TO_THE_END);
    assertThat(on.total().gained())
        .isEqualTo(some(impact).stream().mapToLong(Impact.Person::gained).sum());
    return on.people().stream()
        .filter(Impact.Person::differs)
        .map(it -> new Impact.Person(it.principal(), it.gained(), it.lost(), 0))
        .toList();
  }

  private static void assertImpact(
      Engine before, Engine after, java.time.Instant at, Impact impact, List<Change> change) {
    Set<PrincipalKey> everybody = new HashSet<>(before.catalogue().principals().keySet());
    everybody.addAll(after.catalogue().principals().keySet());
    everybody.add(PrincipalKey.ANONYMOUS);
    List<Impact.Person> expected = new ArrayList<>();
    long gained = 0;
    long lost = 0;
    for (PrincipalKey key : everybody) {
      Session session = new Session(key, at, true, null);
      Set<String> was = rights(before, session);
      Set<String> is = rights(after, session);
      long plus = is.stream().filter(right -> !was.contains(right)).count();
      long minus = was.stream().filter(right -> !is.contains(right)).count();
      if (plus + minus > 0) {
        expected.add(new Impact.Person(key, plus, minus, 0));
      }
      gained += plus;
      lost += minus;
    }
    assertThat(impact.people()).as("%s", change).containsExactlyInAnyOrderElementsOf(expected);
    assertThat(impact.total().gained()).isEqualTo(gained);
    assertThat(impact.total().lost()).isEqualTo(lost);
    assertThat(impact.total().lines().stream().mapToLong(Difference.Line::gained).sum())
        .as("lines of what is gained, %s", change)
        .isEqualTo(gained);
    assertThat(impact.total().lines().stream().mapToLong(Difference.Line::lost).sum())
        .as("lines of what is lost, %s", change)
        .isEqualTo(lost);
    assertThat(impact.total().areas().stream().mapToLong(Difference.Area::gained).sum())
        .as("areas of what is gained, %s", change)
        .isEqualTo(gained);
    assertThat(impact.total().areas().stream().mapToLong(Difference.Area::lost).sum())
        .as("areas of what is lost, %s", change)
        .isEqualTo(lost);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void theDifferenceOfTwoIsWhatOneHasAndTheOtherHasNot(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    var at = RandomModels.anyTime(new Random(seed));
    Session first = new Session(model.principals().getFirst().key(), at, true, null);
    Session second = new Session(model.principals().getLast().key(), at, true, null);
    Difference difference = engine.access(first).difference(engine.access(second));
    Set<String> one = rights(engine, first);
    Set<String> other = rights(engine, second);
    assertThat(difference.gained())
        .isEqualTo(other.stream().filter(it -> !one.contains(it)).count());
    assertThat(difference.lost()).isEqualTo(one.stream().filter(it -> !other.contains(it)).count());
    assertThat(difference.lines().stream().mapToLong(Difference.Line::gained).sum())
        .isEqualTo(difference.gained());
    assertThat(engine.access(first).difference(engine.access(first)).none()).isTrue();
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void intervalsCoverWhatIsAllowedAndNothingElse(long seed) {
    AccessModel model = RandomModels.model(seed);
    Engine engine = Engine.of(model);
    Session session =
        new Session(
            model.principals().get(1).key(), RandomModels.anyTime(new Random(seed)), true, null);
    Access access = engine.access(session);
    for (PermissionKey permission : engine.catalogue().permissions().keySet()) {
      long allowed =
          AllPlaces.of(model).stream()
              .filter(it -> access.verdict(permission, it) == Verdict.ALLOWED)
              .count();
      List<Access.Interval> intervals = access.intervals(permission);
      assertThat(intervals.stream().mapToInt(Access.Interval::count).sum())
          .isEqualTo((int) allowed);
      for (Access.Interval interval : intervals) {
        assertThat(access.verdict(permission, interval.first())).isEqualTo(Verdict.ALLOWED);
        assertThat(access.verdict(permission, interval.last())).isEqualTo(Verdict.ALLOWED);
      }
    }
  }

  @Test
  void anImpactCanBeBrokenOff() {
    Engine engine = Engine.of(RandomModels.model(5));
    var gone = engine.catalogue().model().principals().getLast();
    Change change = new Change.Altered(gone, RandomChanges.suspended(gone));
    Engine after = engine.after(List.of(change));
    List<Integer> told = new ArrayList<>();
    Impact impact =
        engine.impact(
            after,
            List.of(change),
            RandomModels.anyTime(new Random(1)),
            true,
            (done, of) -> {
              told.add(done * 1000 + of);
              return false;
            });
    assertThat(told).hasSize(1);
    assertThat(impact.asked()).as("that person, and whoever is not signed in").isEqualTo(2);
  }

  @Test
  void questionsOutsideOfTheModelAreAnsweredInWords() {
    AccessModel model = RandomModels.model(1);
    Engine engine = Engine.of(model);
    var at = RandomModels.anyTime(new Random(1));
    PermissionKey known = model.permissions().getFirst().key();
    ResourceKey there = ResourceKey.of(model.accounts().getFirst().key());
    assertThatThrownBy(
            () -> engine.whoCan(WhoQuestion.of(new PermissionKey("none"), there, at, true)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessage("There is no permission 'none'");
    assertThatThrownBy(
            () -> engine.whoCan(WhoQuestion.of(known, new ResourceKey("unit:none"), at, true)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessage("There is no resource 'unit:none'");
    assertThatThrownBy(() -> new WhoQuestion(Set.of(), new WhoQuestion.Where.On(there), at, true))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("at least one permission");
    assertThatThrownBy(() ->
            engine.whoCan(
                new WhoQuestion(
                    Set.of(known),
                    new WhoQuestion.Where.Within(new CollectionKey("none")),
                    at,
                    true)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessage("There is no collection 'none'");
    var longAgo = java.time.Instant.parse("0001-01-01T00:00:00Z");
    Session session = new Session(model.principals().getFirst().key(), longAgo, false, null);
    assertThat(engine.decide(session.asks(known, there)).verdict()).isNotEqualTo(Verdict.ERROR);
  }
}
