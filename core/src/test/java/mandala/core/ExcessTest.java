package mandala.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.stream.Collectors;
import java.util.stream.LongStream;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseRecord;
import mandala.core.excess.UseWindow;
import mandala.core.model.AccessModel;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Extent;
import mandala.core.question.Impact;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Need, young, excess and exposure are what the naive reference says (section 12). */
class ExcessTest {

  /** {@code -Dmandala.seeds=20000} asks about more models than the ordinary run: one in twenty. */
  static LongStream seeds() {
    return LongStream.rangeClosed(1, Long.getLong("mandala.seeds", 400) / 20);
  }

  /** A random model with some expectations. */
  private static Engine engine(long seed) {
    AccessModel model = RandomModels.model(seed);
    RandomUse random = new RandomUse(model, seed);
    List<Change> changes = new ArrayList<>();
    for (int i = 0; i < seed % 4; i++) {
      changes.add(new Change.Added(random.demand("x" + i, model)));
    }
    return Engine.of(model).after(changes);
  }

  private static void assertAgree(Engine engine, Engine then, long seed) {
    assertAgree(engine, then, seed, UseCoverage.COMPLETE);
  }

  private static void assertAgree(Engine engine, Engine then, long seed, UseCoverage coverage) {
    AccessModel model = engine.catalogue().model();
    RandomUse random = new RandomUse(model, seed);
    UseWindow window = random.window();
    List<UseRecord> records = random.records(engine, window, 30);
    ExcessReference reference =
        new ExcessReference(model, then.catalogue().model(), records, window, coverage);
    Use.Told told = Use.of(records, window, engine.catalogue(), coverage);
    assertThat(told.strangers())
        .isEqualTo(
            records.stream()
                .filter(it -> window.contains(it.day()) && reference.isStranger(it))
                .toList());
    ExcessStudy study = engine.excess(then, told.use(), window);
    for (PrincipalKey who : study.everybody()) {
      ExcessReference.Parts parts = reference.of(who);
      assertThat(study.of(who))
          .as("seed %d, %s, %s", seed, who, window)
          .isEqualTo(
              new Excess(
                  who,
                  parts.effective().size(),
                  parts.need().size(),
                  parts.young().size(),
                  parts.unobserved().size(),
                  parts.excess().size(),
                  reference.exposure(parts.effective()),
                  reference.exposure(parts.excess())));
      assertThat(pairs(study.rights(who))).as("seed %d, %s", seed, who).isEqualTo(parts.excess());
      ExcessStudy.Shares shares = study.shares(who);
      assertThat(
              List.of(
                  shares.effective().rights(), shares.needed().rights(), shares.kept().rights()))
          .as("seed %d, %s", seed, who)
          .isEqualTo(
              List.of(
                  (long) parts.effective().size(),
                  (long) parts.need().size() + parts.young().size(),
                  (long) parts.effective().size() - parts.excess().size()));
      Extent all = new Extent(null, false, null);
      assertThat(List.of(shares.effective().exposure(all), shares.kept().exposure(all)))
          .as("seed %d, %s", seed, who)
          .isEqualTo(
              List.of(
                  reference.exposure(parts.effective()),
                  reference.exposure(parts.effective()) - reference.exposure(parts.excess())));
    }
  }

  private static Set<List<String>> pairs(List<Excess.Right> rights) {
    return rights.stream()
        .map(it -> List.of(it.permission().value(), it.resource().value()))
        .collect(Collectors.toSet());
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void oneModelForAllInstants(long seed) {
    Engine engine = engine(seed);
    assertAgree(engine, engine, seed);
  }

  /** Some permissions on some places are reported, some of them not over the whole window. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void notAllIsObserved(long seed) {
    Engine engine = engine(seed);
    RandomUse random = new RandomUse(engine.catalogue().model(), seed);
    assertAgree(engine, engine, seed, random.coverage(random.window()));
  }

  /** The model when the window began was another: one that the newer came of, or one made apart. */
  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void anotherModelWhenTheWindowBegan(long seed) {
    Engine then = engine(seed);
    Engine now = changed(then, seed);
    assertAgree(now, then, seed);
    assertAgree(Engine.of(now.catalogue().model()), then, seed);
  }

  private static Engine changed(Engine engine, long seed) {
    RandomChanges changes = new RandomChanges(seed);
    Random random = new Random(seed);
    Engine changed = engine;
    for (int made = 0; made < 1 + random.nextInt(4); ) {
      try {
        changed = changed.after(List.of(changes.next(changed.catalogue().model())));
        made++;
      } catch (IllegalArgumentException _) {
        // a change that leaves a faulty model is another test's matter
      }
    }
    return changed;
  }

  @ParameterizedTest(name = "seed {0}")
  @MethodSource("seeds")
  void allAtOnceIsTheSameAsEachAlone(long seed) {
    Engine engine = engine(seed);
    RandomUse random = new RandomUse(engine.catalogue().model(), seed);
    UseWindow window = random.window();
    Use use = Use.of(random.records(engine, window, 30), window, engine.catalogue()).use();
    ExcessStudy study = engine.excess(engine, use, window);
    Map<PrincipalKey, Excess> all = new ConcurrentHashMap<>();
    List<PrincipalKey> many = new ArrayList<>();
    for (int i = 0; i < 20; i++) {
      many.addAll(study.everybody());
    }
    assertThat(study.each(many, Impact.Watch.TO_THE_END, it -> all.put(it.principal(), it)))
        .isTrue();
    assertThat(all.keySet()).containsExactlyInAnyOrderElementsOf(study.everybody());
    all.forEach(
        (who, excess) -> assertThat(excess).isEqualTo(engine.excess(engine, use, window).of(who)));
  }
}
