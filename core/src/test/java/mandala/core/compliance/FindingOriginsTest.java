package mandala.core.compliance;

import static java.util.stream.Collectors.toSet;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.LongStream;
import mandala.core.RandomChanges;
import mandala.core.RandomModels;
import mandala.core.compliance.FindingOrigins.Beginning;
import mandala.core.compliance.FindingOrigins.Stretch;
import mandala.core.engine.Engine;
import mandala.core.model.About;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Kind;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.WindowEdges;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ExclusionKey;
import mandala.core.model.key.ExpectationKey;
import mandala.core.model.key.PermissionKey;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A finding began where looking at every moment of the past, the oldest first, says so. */
class FindingOriginsTest {

  private static final Instant NOW = Instant.parse("2026-11-01T00:00:00Z");
  private static final List<String> MADE =
      List.of(
          "2025-12-01T00:00:00Z",
          "2026-02-01T00:00:00Z",
          "2026-03-01T00:00:00Z",
          "2026-05-01T00:00:00Z",
          "2026-10-01T00:00:00Z");

  private static int byRevision;
  private static int byWindow;
  private static int severalTimes;

  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 150));
  }

  @AfterAll
  static void bothKindsBegan() {
    assertThat(byRevision).isPositive();
    assertThat(byWindow).isPositive();
    assertThat(severalTimes).isPositive();
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void findingsBeginWhereTheyWereFirstThereWithoutABreak(long seed) {
    List<Stretch> past = past(seed);
    Set<String> now = there(past.getLast().engine(), NOW);

    Map<String, Beginning> began = FindingOrigins.of(now, past.reversed().iterator(), NOW);

    Map<String, Beginning> expected = new HashMap<>();
    oneByOne(past).forEach((id, all) -> expected.put(id, all.getLast()));
    expected.keySet().retainAll(now);
    assertThat(began).isEqualTo(expected);
    began.values().stream()
        .filter(it -> it.at().isAfter(past.getFirst().from()))
        .forEach(it -> {
          if (it.byRevision()) {
            byRevision++;
          } else {
            byWindow++;
          }
        });
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void byHalvesItIsABeginningTooAndTheOnlyOneWhereThereIsOne(long seed) {
    List<Stretch> past = past(seed);
    Set<String> now = there(past.getLast().engine(), NOW);

    Map<String, Beginning> began = FindingOrigins.of(now, past.reversed().iterator(), NOW, 0);

    assertThat(began).containsOnlyKeys(now);
    Map<String, List<Beginning>> all = oneByOne(past);
    began.forEach((id, it) -> assertThat(all.get(id)).contains(it));
    all.values().stream().filter(it -> it.size() > 1).forEach(_ -> severalTimes++);
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void amongChecksTheSameRulesAsTheWholeSearch(long seed) {
    Engine engine = Engine.of(withRules(seed));
    Set<String> all = there(engine, NOW);
    assertThat(Findings.among(all, engine, NOW)).isEqualTo(all);
    for (String id : all) {
      assertThat(Findings.among(Set.of(id, id + "-other"), engine, NOW)).containsExactly(id);
    }
  }

  @Test
  void withoutAnyRevisionThereIsNothingToTell() {
    assertThatThrownBy(() ->
            FindingOrigins.of(Set.of("too-few-holders x"), List.<Stretch>of().iterator(), NOW))
        .isInstanceOf(IllegalArgumentException.class);
  }

  private static List<Stretch> past(long seed) {
    RandomChanges changes = new RandomChanges(seed);
    Engine engine = Engine.of(withRules(seed));
    List<Stretch> past = new ArrayList<>();
    for (String at : MADE) {
      past.add(new Stretch(past.size() + 1, Instant.parse(at), engine));
      for (int i = 0; i < 6; i++) {
        try {
          engine = engine.after(List.of(changes.next(engine.catalogue().model())));
        } catch (IllegalArgumentException _) {
          // refused: it stays as it was
        }
      }
    }
    return past;
  }

  /** A random model that also states exclusions and expectations at random. */
  private static AccessModel withRules(long seed) {
    AccessModel model = RandomModels.model(seed);
    Random random = new Random(seed);
    AccessModel.Builder stated = AccessModel.builder();
    for (Kind kind : Kind.values()) {
      stated.addAll(model.things(kind));
    }
    List<PermissionKey> all = List.copyOf(new Catalogue(model).permissions().keySet());
    for (int i = 0; i < 4; i++) {
      List<PermissionKey> one = List.of(all.get(random.nextInt(all.size())));
      List<PermissionKey> other = List.of(all.get(random.nextInt(all.size())));
      AccountKey account = model.accounts().get(random.nextInt(model.accounts().size())).key();
      stated.add(
          new Exclusion(
              new ExclusionKey("x" + i),
              About.NONE,
              null,
              List.of(one, other),
              1,
              Exclusion.Where.ACCOUNT,
              List.of()));
      stated.add(
          new Expectation(
              new ExpectationKey("e" + i),
              About.NONE,
              null,
              Expectation.Form.CANNOT,
              List.of(new Subject.OfAccount(account)),
              one,
              List.of(Clause.of(new Term.InAccount(account))),
              null,
              null));
    }
    return stated.build();
  }

  private static Set<String> there(Engine engine, Instant at) {
    return Findings.of(engine, at).stream().map(Finding::id).collect(toSet());
  }

  /** Every beginning of each finding, the oldest first. */
  private static Map<String, List<Beginning>> oneByOne(List<Stretch> past) {
    Map<String, List<Beginning>> all = new HashMap<>();
    Set<String> running = new HashSet<>();
    for (int i = 0; i < past.size(); i++) {
      Stretch stretch = past.get(i);
      Instant end = i + 1 < past.size() ? past.get(i + 1).from() : NOW;
      TreeSet<Instant> moments =
          new TreeSet<>(
              WindowEdges.of(stretch.engine().catalogue())
                  .subSet(stretch.from(), false, end, i + 1 == past.size()));
      moments.add(stretch.from());
      for (Instant at : moments) {
        Set<String> there = new HashSet<>(there(stretch.engine(), at));
        running.retainAll(there);
        for (String id : there) {
          if (running.add(id)) {
            all.computeIfAbsent(id, _ -> new ArrayList<>())
                .add(new Beginning(at, stretch.revision(), at.equals(stretch.from())));
          }
        }
      }
    }
    return all;
  }
}
