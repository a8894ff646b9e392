package mandala.core.engine;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.NavigableMap;
import java.util.NavigableSet;
import java.util.Random;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.LongStream;
import mandala.core.RandomChanges;
import mandala.core.RandomModels;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Guest;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Thing;
import mandala.core.model.Window;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Difference;
import mandala.core.question.Impact;
import mandala.core.question.Session;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What changes do over time, against the impact at each edge of every window. */
class ImpactOverTimeTest {

  static LongStream seeds() {
    // 545: a gate on an account opens what lies below it
    return LongStream.concat(
        LongStream.of(545), LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 60)));
  }

  private static void edges(AccessModel model, NavigableSet<Instant> into) {
    for (Kind kind : Kind.values()) {
      for (Thing thing : model.things(kind)) {
        Window window =
            switch (thing) {
              case Principal it -> it.window();
              case Guest it -> it.window();
              case Assignment it -> it.window();
              case Bridge it -> it.window();
              case mandala.core.model.Activation it -> it.window();
              default -> Window.ALWAYS;
            };
        if (window.from() != null) {
          into.add(window.from());
        }
        if (window.until() != null) {
          into.add(window.until());
        }
      }
    }
  }

  private static Map<PrincipalKey, NavigableMap<Instant, Difference>> visits(
      Engine engine, Engine after, Draft draft, Instant from) {
    Map<PrincipalKey, NavigableMap<Instant, Difference>> visits = new HashMap<>();
    boolean whole =
        engine.impactOverTime(
            after,
            draft.inOrder(),
            from,
            true,
            null,
            Impact.Watch.TO_THE_END,
            (who, at, difference) -> {
              synchronized (visits) {
                visits.computeIfAbsent(who, _ -> new TreeMap<>()).put(at, difference);
              }
              return true;
            });
    assertThat(whole).isTrue();
    return visits;
  }

  private static Draft draft(Engine engine, long seed) {
    RandomChanges changes = new RandomChanges(seed + 77);
    Draft draft = Draft.EMPTY;
    Engine after = engine;
    for (int step = 0; step < 3; step++) {
      Change change = changes.next(after.catalogue().model());
      try {
        after = after.after(List.of(change));
        draft = draft.with(change);
      } catch (IllegalArgumentException _) {
        // refused
      }
    }
    return seed % 3 == 0 ? sealedOtherwise(engine, draft, seed) : draft;
  }

  /** Seals what is open, or opens what is sealed; alone or beside other changes. */
  private static Draft sealedOtherwise(Engine engine, Draft others, long seed) {
    List<Resource> resources = engine.catalogue().model().resources();
    Draft draft = seed % 2 == 0 ? Draft.EMPTY : others;
    if (resources.isEmpty()) {
      return draft;
    }
    Resource was = resources.get((int) (seed % resources.size()));
    Resource is = Rewritten.sealed(was, !was.sealed());
    try {
      Draft more = draft.with(new Change.Altered(was, is));
      engine.after(more.inOrder());
      return more;
    } catch (IllegalArgumentException _) {
      return draft;
    }
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void visitsEveryInstantAtWhichSomebodyBeginsToGainOrLoseOtherwise(long seed) {
    Engine engine = Engine.of(RandomModels.model(seed));
    Draft draft = draft(engine, seed);
    Engine after = engine.after(draft.inOrder());
    Instant from = RandomModels.anyTime(new Random(seed));
    NavigableSet<Instant> edges = new TreeSet<>();
    edges(engine.catalogue().model(), edges);
    edges(after.catalogue().model(), edges);
    edges.add(from);
    Map<PrincipalKey, NavigableMap<Instant, Difference>> visits =
        visits(engine, after, draft, from);
    Map<PrincipalKey, Difference> last = new HashMap<>();
    for (Instant at : edges.tailSet(from, true)) {
      List<PrincipalKey> everybody = new ArrayList<>(List.of(PrincipalKey.ANONYMOUS));
      everybody.addAll(engine.catalogue().principals().keySet());
      for (PrincipalKey who : everybody) {
        if (!who.equals(PrincipalKey.ANONYMOUS)
            && !after.catalogue().principals().containsKey(who)) {
          continue;
        }
        Session then = new Session(who, at, true, null);
        Difference is = engine.access(then).difference(after.access(then));
        Difference visited = visits.getOrDefault(who, new TreeMap<>()).get(at);
        Difference was = last.put(who, is);
        boolean begins = !is.none() && !is.equals(was);
        if (begins || visited != null) {
          assertThat(visited).as("%s at %s, %s", who, at, draft).isEqualTo(is);
        }
      }
    }
  }

  @Test
  void isBrokenOffByTheWatch() {
    Engine engine = Engine.of(RandomModels.model(545));
    Draft draft = draft(engine, 545);
    boolean whole =
        engine.impactOverTime(
            engine.after(draft.inOrder()),
            draft.inOrder(),
            Instant.parse("2026-05-01T09:00:00Z"),
            true,
            null,
            (_, _) -> false,
            (_, _, _) -> true);
    assertThat(draft.isEmpty()).isFalse();
    assertThat(whole).isFalse();
  }
}
