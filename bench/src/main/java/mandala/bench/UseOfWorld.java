package mandala.bench;

import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.stream.Collectors;
import mandala.core.detect.Detectors;
import mandala.core.detect.Inquiry;
import mandala.core.engine.Engine;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseCoverage;
import mandala.core.excess.UseWindow;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.present.Access;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.question.Verdict;
import mandala.core.shrink.ShrinkOrder;
import mandala.core.shrink.Shrinker;

/** What everybody of a world used, two hundred rights each that they hold, and what is excess. */
final class UseOfWorld {

  /** How many rights each principal used; of a city twenty million in all. */
  static final int OF_EACH = 200;

  /** For detectors, to which one used right is as good as many. */
  private static final int FOR_FINDINGS = 20;

  private static final UseWindow WINDOW = new UseWindow(Settlement.NOW, 180);

  /** The people of an account as large as a city's largest. */
  private static final int ACCOUNT = 10_000;

  private static final int ONE_BY_ONE = 2_000;

  private final World world;
  private final Results results;

  UseOfWorld(World world, Results results) {
    this.world = world;
    this.results = results;
  }

  private Use[] gathered(int rights) {
    Use.Builder builder = new Use.Builder();
    for (Principal each : world.model.principals()) {
      use(each, rights, builder);
    }
    Use[] use = new Use[1];
    results.put(
        "use: " + million(world.model.principals().size(), rights) + " rights gathered",
        "s",
        seconds(() -> use[0] = builder.build(UseCoverage.COMPLETE)));
    return use;
  }

  /** What all detectors find. */
  void findings() {
    Use use = gathered(FOR_FINDINGS)[0];
    Detectors.Answer[] answer = new Detectors.Answer[1];
    results.put(
        "findings of all detectors",
        "s",
        seconds(() ->
            answer[0] =
                Detectors.of(Inquiry.of(world.engine, WINDOW, use), Impact.Watch.TO_THE_END)));
    results.put("findings", "", answer[0].found().size());
  }

  void run() {
    Use[] use = gathered(OF_EACH);
    Engine engine = world.engine;
    ExcessStudy[] study = new ExcessStudy[1];
    results.put(
        "excess: beginning a study",
        "ms",
        seconds(() -> study[0] = engine.excess(engine, use[0], WINDOW)) * 1e3);
    List<PrincipalKey> people = study[0].everybody();
    double[] micros = new double[Math.min(ONE_BY_ONE, people.size())];
    for (int i = 0; i < micros.length * 2; i++) {
      PrincipalKey who = people.get((int) (i * 7919L % people.size()));
      micros[i % micros.length] = seconds(() -> study[0].of(who)) * 1e6;
    }
    results.sampled("excess of one person", micros);
    int many = Math.min(ACCOUNT, people.size());
    results.put(
        "excess of " + many + " people, all threads",
        "s",
        seconds(() -> study[0].of(people.subList(0, many))));
    long[] excess = new long[1];
    results.put(
        "excess of everybody, all threads",
        "s",
        seconds(() ->
            study[0].each(
                people,
                Impact.Watch.TO_THE_END,
                it -> {
                  synchronized (excess) {
                    excess[0] += it.excess();
                  }
                })));
    if (excess[0] == 0) {
      throw new IllegalStateException("Impossible state: nobody has any excess");
    }
    shrink(engine, use[0]);
  }

  /** A smaller model for all of a small world, for one account of a large one. */
  private void shrink(Engine engine, Use use) {
    ShrinkOrder order = ShrinkOrder.of(WINDOW, use, List.of());
    boolean all = world.model.principals().size() <= ACCOUNT;
    if (!all) {
      order = order.only(List.of(new Subject.OfAccount(largest())));
    }
    ShrinkOrder wanted = order;
    Shrinker.Answer[] answer = new Shrinker.Answer[1];
    results.put(
        all ? "a smaller model for everybody" : "a smaller model for the largest account",
        "s",
        seconds(() -> answer[0] = Shrinker.of(engine, engine, wanted, Impact.Watch.TO_THE_END)));
    results.put("way to the floor", "%", 100 * answer[0].reached());
    results.put("steps of it", "", answer[0].steps().size());
  }

  private AccountKey largest() {
    Map<AccountKey, Long> people =
        world.model.principals().stream()
            .collect(Collectors.groupingBy(Principal::account, Collectors.counting()));
    return people.entrySet().stream().max(Map.Entry.comparingByValue()).orElseThrow().getKey();
  }

  private static String million(int people, int rights) {
    return String.format(java.util.Locale.ROOT, "%.1f million", people * (double) rights / 1e6);
  }

  private interface Work {
    Object run();
  }

  private static double seconds(Work work) {
    long start = System.nanoTime();
    Object result = work.run();
    double took = (System.nanoTime() - start) / 1e9;
    if (result == null) {
      throw new IllegalStateException("Impossible state: work without a result");
    }
    return took;
  }

  /** Adds rights that somebody holds, found by asking at random. */
  private void use(Principal whose, int rights, Use.Builder builder) {
    Access access = world.engine.accessAfresh(World.session(whose));
    Random random = world.random();
    int found = 0;
    for (int tries = 0; tries < rights * 6 && found < rights; tries++) {
      Question question = world.question(whose);
      if (access.verdict(question.permission(), question.resource()) == Verdict.ALLOWED) {
        found++;
        builder.add(
            whose.key(),
            question.permission(),
            question.resource(),
            Settlement.NOW.atZone(ZoneOffset.UTC).toLocalDate().minusDays(random.nextInt(180)),
            1 + random.nextInt(5));
      }
    }
  }
}
