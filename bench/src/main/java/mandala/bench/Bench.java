package mandala.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.openjdk.jmh.results.RunResult;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.TimeValue;
import org.openjdk.jmh.util.Statistics;
import picocli.CommandLine;

/** {@code ./mandala bench}: measures and writes a table with machine and commit. */
@CommandLine.Command(
    name = "bench",
    mixinStandardHelpOptions = true,
    description = "Measures what questions cost and writes docs/benchmarks.md")
public final class Bench implements Callable<Integer> {

  private static final int ROUNDS = 3;

  @CommandLine.Option(
      names = "--size",
      split = ",",
      description = "Models to measure: ${COMPLETION-CANDIDATES}; default TOWN,CITY")
  private List<Size> sizes = List.of(Size.TOWN, Size.CITY);

  @CommandLine.Option(
      names = "--question",
      description =
          "Only these: build, everybody, excess, findings, reviews, changes, impact, postgres, or the name of a question, as decisionCold")
  private @Nullable String question;

  @CommandLine.Option(names = "--seconds", description = "For each question; default 5")
  private int seconds = 5;

  @CommandLine.Option(names = "--out", description = "The file to write; else it is printed")
  private @Nullable Path out;

  @CommandLine.Option(
      names = "--short",
      description =
          "Measure the town for a minute or two, compare with the kept ratios and say what got"
              + " worse; ends with 1 where something did")
  private boolean brief;

  @CommandLine.Option(names = "--keep", description = "Measure as --short and keep the ratios")
  private boolean keep;

  @CommandLine.Option(
      names = "--kept",
      description = "The file of kept ratios; default bench/kept-ratios.tsv")
  private Path kept = Path.of("bench/kept-ratios.tsv");

  @CommandLine.Option(names = "--older", split = ",", hidden = true)
  private List<Path> older = List.of();

  @CommandLine.Option(names = "--newer", split = ",", hidden = true)
  private List<Path> newer = List.of();

  @CommandLine.Option(names = "--commit", hidden = true)
  private String commit = "unknown";

  /** Runs the command line. */
  public static void main(String[] args) {
    System.exit(
        new CommandLine(new Bench()).setCaseInsensitiveEnumValuesAllowed(true).execute(args));
  }

  @Override
  public Integer call() throws RunnerException, IOException, SQLException {
    if (!older.isEmpty()) {
      return inTurns();
    }
    if (brief || keep) {
      return inShort();
    }
    StringBuilder text = new StringBuilder(head());
    for (Size size : sizes) {
      Results results = measure(size);
      if (size == Size.TOWN || size == Size.VILLAGE) {
        database(size, results);
      }
      text.append("\n## ")
          .append(size.word().substring(0, 1).toUpperCase(Locale.ROOT))
          .append(size.word().substring(1))
          .append("\n\n")
          .append(results.table());
    }
    if (out == null) {
      System.out.print(text);
    } else {
      Files.writeString(out, text);
    }
    return 0;
  }

  private Results measure(Size size) throws RunnerException {
    Results results = new Results();
    Workload occasions = new Workload(size, results);
    if (wanted("build")) {
      occasions.build();
    }
    questions(size, results);
    if (wanted("everybody")) {
      occasions.everybody();
    }
    if (wanted("excess")) {
      new UseOfWorld(Worlds.of(size), results).run();
    }
    if (wanted("findings")) {
      new UseOfWorld(Worlds.of(size), results).findings();
    }
    if (wanted("reviews")) {
      new RoundOfWorld(Worlds.of(size), results).run();
    }
    if (wanted("changes")) {
      occasions.changes();
    }
    if (wanted("impact")) {
      occasions.impact();
    }
    return results;
  }

  /** What {@code ./mandala bench --against} has measured in turns. */
  private int inTurns() throws IOException {
    List<Baseline.Compared> all = Baseline.inTurns(older, newer);
    System.out.print(Baseline.table(all));
    long worse = all.stream().filter(Baseline.Compared::worse).count();
    System.out.printf("%d of %d got worse.%n", worse, all.size());
    return worse > 0 ? 1 : 0;
  }

  private int inShort() throws RunnerException, IOException {
    seconds = 2;
    Calibration yardstick = new Calibration();
    double before = yardstick.millis();
    double after = before;
    Map<String, Double> ratios = new TreeMap<>();
    for (int round = 0; round < ROUNDS; round++) { // the best of a few, for noise only adds
      double start = after;
      Results results = measure(Size.TOWN);
      after = yardstick.millis();
      Baseline.ratios(results.rows(), (start + after) / 2)
          .forEach((what, ratio) -> ratios.merge(what, ratio, Math::min));
    }
    if (keep) {
      Baseline.write(kept, ratios);
      System.out.println("Kept " + ratios.size() + " ratios in " + kept);
      return 0;
    }
    if (!Files.exists(kept)) {
      System.err.println("There is no " + kept + " to compare with. Write one with --keep.");
      return 2;
    }
    List<Baseline.Compared> all = Baseline.compare(kept, ratios);
    System.out.print(Baseline.table(all));
    System.out.printf(
        Locale.ROOT,
        "The yardstick took %.1f ms before and %.1f ms after; %d of %d got worse.%n",
        before,
        after,
        all.stream().filter(Baseline.Compared::worse).count(),
        all.size());
    return all.stream().anyMatch(Baseline.Compared::worse) ? 1 : 0;
  }

  /** Against PostgreSQL, where there is one: larger models take it too long. */
  private void database(Size size, Results results) throws SQLException {
    String url = System.getenv("MANDALA_BENCH_DB_URL");
    if (wanted("postgres") && url != null) {
      try (Database database =
          new Database(
              Worlds.of(size),
              results,
              url,
              Objects.requireNonNullElse(System.getenv("MANDALA_BENCH_DB_USER"), "mandala"),
              Objects.requireNonNullElse(System.getenv("MANDALA_BENCH_DB_PASSWORD"), ""))) {
        database.run();
      }
    }
  }

  private boolean wanted(String name) {
    return question == null || question.equalsIgnoreCase(name);
  }

  private String head() {
    return """
    # Benchmarks

    Measured with `./mandala bench`: generated models (seed %d), JMH 1.37 in sampling mode on one
    thread for questions, wall-clock time for the rest. Typical is the median, tail the 99th
    percentile; of a build the first one, of a heap nothing. Figures of one shared machine: take
    the ratios and the shapes.

    %s, commit `%s`: %d processors, %s %s.
    """
        .formatted(
            World.SEED,
            LocalDate.now(java.time.ZoneOffset.UTC),
            commit,
            Runtime.getRuntime().availableProcessors(),
            System.getProperty("java.vm.name"),
            System.getProperty("java.version"));
  }

  private void questions(Size size, Results results) throws RunnerException {
    List<String> names =
        Arrays.stream(Questions.class.getMethods())
            .filter(it -> it.isAnnotationPresent(org.openjdk.jmh.annotations.Benchmark.class))
            .map(it -> it.getName())
            .filter(this::wanted)
            .sorted()
            .toList();
    if (names.isEmpty()) {
      return;
    }
    OptionsBuilder options = new OptionsBuilder();
    names.forEach(it -> options.include("\\.Questions\\." + it + "$"));
    List<RunResult> measured =
        new ArrayList<>(
            new Runner(
                    options
                        .param("size", size.name())
                        .forks(0)
                        .warmupIterations(2)
                        .warmupTime(TimeValue.seconds(Math.max(1, seconds / 2)))
                        .measurementIterations(1)
                        .measurementTime(TimeValue.seconds(seconds))
                        .build())
                .run());
    for (RunResult result : measured) {
      Statistics statistics = result.getPrimaryResult().getStatistics();
      String name = result.getPrimaryResult().getLabel();
      results.add(
          new Results.Row(
              name, "µs", statistics.getPercentile(50) / 1e3, statistics.getPercentile(99) / 1e3));
    }
  }
}
