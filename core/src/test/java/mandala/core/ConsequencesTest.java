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
import mandala.core.analysis.Consequences;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.compliance.Finding;
import mandala.core.compliance.Findings;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.ExclusionViolation;
import mandala.core.question.ExpectationViolation;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What a change does, against verdicts asked one by one before and after. */
class ConsequencesTest {

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 40));
  }

  private record Right(PrincipalKey who, PermissionKey what, ResourceKey where) {}

  private static List<PrincipalKey> everybody(AccessModel model) {
    List<PrincipalKey> all = new ArrayList<>(List.of(PrincipalKey.ANONYMOUS));
    model.principals().forEach(it -> all.add(it.key()));
    return all;
  }

  private static Set<Right> rights(AccessModel model, Instant at) {
    Reference reference = new Reference(model);
    Catalogue catalogue = new Catalogue(model);
    Set<Right> rights = new HashSet<>();
    for (PrincipalKey who : everybody(model)) {
      for (Permission what : catalogue.permissions().values()) {
        for (ResourceKey where : AllPlaces.of(model)) {
          Question question = new Question(who, what.key(), where, at, true, null);
          if (reference.verdict(question) == Verdict.ALLOWED) {
            rights.add(new Right(who, what.key(), where));
          }
        }
      }
    }
    return rights;
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void impactIsTheDifferenceOfFullEvaluationsBeforeAndAfter(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    RandomChanges changes = new RandomChanges(seed + 13);
    Random random = new Random(seed);
    Instant at = RandomModels.anyTime(random);
    Draft draft = Draft.EMPTY;
    Engine after = engine;
    for (int step = 0; step < 5; step++) {
      AccessModel model = after.catalogue().model();
      Change change =
          seed % 3 == 0 && step == 0 && !model.resources().isEmpty()
              ? sealedOtherwise(any(model.resources(), random))
              : changes.next(model);
      try {
        after = after.after(List.of(change));
        draft = draft.with(change);
      } catch (IllegalArgumentException _) {
        // refused
      }
    }
    if (draft.isEmpty()) {
      return;
    }
    after = engine.after(draft.inOrder());
    Consequences found =
        Consequences.of(engine, after, draft, Findings.of(engine, at), at, Impact.Watch.TO_THE_END);
    Set<Right> before = rights(engine.catalogue().model(), at);
    Set<Right> now = rights(after.catalogue().model(), at);
    Set<Right> gained = new HashSet<>(now);
    gained.removeAll(before);
    Set<Right> lost = new HashSet<>(before);
    lost.removeAll(now);
    assertThat(found.impact().total().gained()).isEqualTo(gained.size());
    assertThat(found.impact().total().lost()).isEqualTo(lost.size());
    Set<PrincipalKey> locked = new HashSet<>();
    lost.forEach(right -> locked.add(right.who()));
    now.forEach(right -> locked.remove(right.who()));
    assertThat(found.lockedOut()).containsExactlyInAnyOrderElementsOf(locked);
    if (found.impact().rerouted() != Impact.UNTOLD) {
      now.retainAll(before);
      Reference was = new Reference(engine.catalogue().model());
      Reference is = new Reference(after.catalogue().model());
      now.removeIf(right -> {
        Question question = new Question(right.who(), right.what(), right.where(), at, true, null);
        return was.givers(question).equals(is.givers(question));
      });
      assertThat(found.impact().rerouted()).as("%s", draft).isEqualTo(now.size());
    }
  }

  private static Change sealedOtherwise(Resource it) {
    return new Change.Altered(it, Rewritten.sealed(it, !it.sealed()));
  }

  private static <T> T any(List<T> list, Random random) {
    return list.get(random.nextInt(list.size()));
  }

  private static List<PermissionKey> some(AccessModel model, Random random) {
    List<Permission> all = List.copyOf(new Catalogue(model).permissions().values());
    return List.of(any(all, random).key(), any(all, random).key());
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void exclusionsAreBrokenByThoseWhoTakeTooManySides(long seed) {
    AccessModel model = RandomModels.model(seed);
    Random random = new Random(seed);
    Instant at = RandomModels.anyTime(random);
    Engine engine = Engine.of(model);
    Set<Right> rights = rights(model, at);
    Catalogue catalogue = engine.catalogue();
    for (Exclusion.Where where : Exclusion.Where.values()) {
      PrincipalKey spared = any(model.principals(), random).key();
      Exclusion exclusion =
          new Exclusion(
              new ExclusionKey("x"),
              About.NONE,
              null,
              List.of(some(model, random), some(model, random), some(model, random)),
              1 + random.nextInt(2),
              where,
              List.of(new Exclusion.Exemption(spared, at.plusSeconds(1), null)));
      Set<PrincipalKey> expected = new TreeSet<>(java.util.Comparator.comparing(Key::value));
      for (PrincipalKey who : everybody(model)) {
        Set<String> meetings = new HashSet<>();
        for (ResourceKey resource : AllPlaces.of(model)) {
          meetings.add(place(where, catalogue, resource));
        }
        for (String meeting : meetings) {
          long sides =
              exclusion.sides().stream()
                  .filter(side ->
                      rights.stream()
                          .anyMatch(right ->
                              right.who().equals(who)
                                  && side.contains(right.what())
                                  && place(where, catalogue, right.where()).equals(meeting)))
                  .count();
          if (sides > exclusion.atMost() && !who.equals(spared)) {
            expected.add(who);
          }
        }
      }
      assertThat(engine.conflicts(exclusion, at).stream().map(ExclusionViolation::principal))
          .as("%s", exclusion)
          .containsExactlyElementsOf(expected);
    }
  }

  private static String place(Exclusion.Where where, Catalogue catalogue, ResourceKey resource) {
    return switch (where) {
      case RESOURCE -> resource.value();
      case ACCOUNT -> String.valueOf(catalogue.accountOf(resource));
      case ANYWHERE -> "";
    };
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void expectationsFailForWhomTheyDoNotHold(long seed) {
    AccessModel model = RandomModels.model(seed);
    Random random = new Random(seed + 1);
    Instant at = RandomModels.anyTime(random);
    Engine engine = Engine.of(model);
    Set<Right> rights = rights(model, at);
    for (Expectation.Form form : Expectation.Form.values()) {
      Term term =
          random.nextBoolean()
              ? new Term.Tree(any(AllPlaces.of(model), random))
              : new Term.InAccount(any(model.accounts(), random).key());
      Subject subject =
          model.groups().isEmpty() || random.nextBoolean()
              ? new Subject.OfAccount(any(model.accounts(), random).key())
              : new Subject.OfGroup(any(model.groups(), random).key());
      Expectation expectation =
          new Expectation(
              new ExpectationKey("e"),
              About.NONE,
              null,
              form,
              form == Expectation.Form.COUNT ? List.of() : List.of(subject),
              some(model, random).stream().distinct().toList(),
              List.of(Clause.of(term)),
              1,
              2);
      assertThat(engine.breaches(expectation, at).stream().map(ConsequencesTest::told))
          .as("%s", expectation)
          .containsExactlyInAnyOrderElementsOf(expected(expectation, engine, rights, at));
    }
  }

  private static String told(ExpectationViolation breach) {
    return breach.principal() == null
        ? breach.resource() + " " + breach.many()
        : breach.principal() + " " + breach.permission() + " " + breach.many();
  }

  private static List<String> expected(
      Expectation it, Engine engine, Set<Right> rights, Instant at) {
    Catalogue catalogue = engine.catalogue();
    List<ResourceKey> scope =
        AllPlaces.of(catalogue.model()).stream()
            .filter(resource -> covers(it.scope().getFirst(), catalogue, resource))
            .toList();
    List<String> told = new ArrayList<>();
    if (it.form() == Expectation.Form.COUNT) {
      for (ResourceKey resource : scope) {
        boolean applies = it.permissions().stream().anyMatch(p -> applies(catalogue, p, resource));
        long holders =
            rights.stream()
                .filter(right -> !right.who().equals(PrincipalKey.ANONYMOUS))
                .filter(right ->
                    right.where().equals(resource) && it.permissions().contains(right.what()))
                .map(Right::who)
                .distinct()
                .count();
        if (applies && (holders < 1 || holders > 2)) {
          told.add(resource + " " + holders);
        }
      }
      return told;
    }
    for (Principal who : catalogue.model().principals()) {
      boolean subject = engine.hasSubject(who.key(), it.subjects().getFirst(), at);
      for (PermissionKey permission : it.permissions()) {
        long has =
            scope.stream()
                .filter(where -> rights.contains(new Right(who.key(), permission, where)))
                .count();
        long all = scope.stream().filter(where -> applies(catalogue, permission, where)).count();
        long wrong =
            !engine.isActive(who.key(), at)
                ? 0
                : switch (it.form()) {
                  case CAN -> subject ? all - has : 0;
                  case CANNOT -> subject ? has : 0;
                  case ONLY -> subject ? 0 : has;
                  case COUNT -> 0;
                };
        if (wrong > 0) {
          told.add(who.key() + " " + permission + " " + wrong);
        }
      }
    }
    if (it.form() == Expectation.Form.ONLY) {
      for (PermissionKey permission : it.permissions()) {
        long has =
            scope.stream()
                .filter(where ->
                    engine
                        .decide(
                            new Question(PrincipalKey.ANONYMOUS, permission, where, at, true, null))
                        .allowed())
                .count();
        if (has > 0) {
          told.add("anonymous " + permission + " " + has);
        }
      }
    }
    return told;
  }

  private static boolean covers(Clause clause, Catalogue catalogue, ResourceKey resource) {
    return switch (clause.terms().getFirst()) {
      case Term.Tree(ResourceKey top) -> AllPlaces.isUnder(catalogue, resource, top);
      case Term.InAccount(AccountKey key) -> key.equals(catalogue.accountOf(resource));
      default -> throw new IllegalStateException("not used here");
    };
  }

  private static boolean applies(Catalogue catalogue, PermissionKey permission, ResourceKey where) {
    Permission it = catalogue.permissions().get(permission);
    return it != null && it.on().contains(catalogue.typeOf(where));
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void whatBeginsAndEndsTogetherIsTheDifferenceOfAllFindings(long seed) {
    AccessModel model = RandomModels.model(seed);
    Random random = new Random(seed + 2);
    Instant at = RandomModels.anyTime(random);
    AccessModel.Builder stated = AccessModel.builder();
    for (mandala.core.model.Kind kind : mandala.core.model.Kind.values()) {
      stated.addAll(model.things(kind));
    }
    stated.add(
        new Exclusion(
            new ExclusionKey("x"),
            About.NONE,
            null,
            List.of(some(model, random), some(model, random)),
            1,
            Exclusion.Where.ACCOUNT,
            List.of()));
    Engine engine = Engine.of(stated.build());
    Change change = new RandomChanges(seed).next(engine.catalogue().model());
    Engine after;
    try {
      after = engine.after(List.of(change));
    } catch (IllegalArgumentException _) {
      return;
    }
    List<Finding> before = Findings.of(engine, at);
    Consequences found =
        Consequences.of(
            engine, after, Draft.EMPTY.with(change), before, at, Impact.Watch.TO_THE_END);
    Set<Object> abouts = new HashSet<>();
    before.forEach(it -> abouts.add(it.about()));
    found.end().forEach(it -> abouts.remove(it.about()));
    found.begin().forEach(it -> assertThat(abouts.add(it.about())).isTrue());
    Set<Object> expected = new HashSet<>();
    Findings.of(after, at).forEach(it -> expected.add(it.about()));
    assertThat(abouts).isEqualTo(expected);
  }
}
