package mandala.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/**
 * Ratios that were kept: by name, how many times the {@link Calibration} something typically takes
 * (heap: megabytes as they are). One line each, name and ratio, separated by a tab.
 */
final class Baseline {

  /** What is by less than this slower than before is taken for noise. */
  static final double TOLERANCE = 2;

  private static final double HEAP_TOLERANCE = 1.05;

  /**
   * The same for what was measured in turns on one machine, the best of several: noise is small.
   */
  static final double TURNS_TOLERANCE = 1.25;

  private Baseline() {}

  /** One comparison with what was kept. */
  record Compared(String what, double was, double is, double tolerance) {
    double factor() {
      return is / was;
    }

    boolean worse() {
      return factor() > (what.startsWith("heap") ? HEAP_TOLERANCE : tolerance);
    }

    boolean better() {
      return factor() < 1 / tolerance;
    }
  }

  /** {@return rows as ratios to the yardstick} */
  static Map<String, Double> ratios(List<Results.Row> rows, double yardstickMillis) {
    Map<String, Double> ratios = new TreeMap<>();
    for (Results.Row row : rows) {
      if (row.what().equals("first build")) {
        continue; // a difference of two figures; "build, check included" says it better
      }
      double millis =
          switch (row.unit()) {
            case "s" -> row.typical() * 1e3;
            case "ms" -> row.typical();
            case "µs" -> row.typical() / 1e3;
            default -> Double.NaN;
          };
      ratios.put(row.what(), row.unit().equals("MB") ? row.typical() : millis / yardstickMillis);
    }
    return ratios;
  }

  static void write(Path file, Map<String, Double> ratios) throws IOException {
    List<String> lines = new ArrayList<>();
    ratios.forEach((what, ratio) -> lines.add(String.format(Locale.ROOT, "%s\t%.6g", what, ratio)));
    Files.write(file, lines);
  }

  /**
   * {@return what was kept beside what is now}, what is only in one of them left out
   *
   * @throws IllegalArgumentException if a line cannot be read; it says which
   */
  static List<Compared> compare(Path file, Map<String, Double> now) throws IOException {
    return compare(read(file), now, TOLERANCE);
  }

  /**
   * {@return two commits beside each other}, each the best of its files, which were written in
   * turns on one machine
   *
   * @throws IllegalArgumentException if a line cannot be read; it says which
   */
  static List<Compared> inTurns(List<Path> older, List<Path> newer) throws IOException {
    return compare(best(older), best(newer), TURNS_TOLERANCE);
  }

  private static Map<String, Double> best(List<Path> files) throws IOException {
    Map<String, Double> best = new TreeMap<>();
    for (Path file : files) {
      read(file).forEach((what, ratio) -> best.merge(what, ratio, Math::min));
    }
    return best;
  }

  private static List<Compared> compare(
      Map<String, Double> before, Map<String, Double> now, double tolerance) {
    List<Compared> all = new ArrayList<>();
    before.forEach((what, was) -> {
      Double is = now.get(what);
      if (is != null && was > 0) {
        all.add(new Compared(what, was, is, tolerance));
      }
    });
    return all;
  }

  private static Map<String, Double> read(Path file) throws IOException {
    Map<String, Double> ratios = new LinkedHashMap<>();
    int number = 0;
    for (String line : Files.readAllLines(file)) {
      number++;
      String[] parts = line.split("\t", -1);
      try {
        ratios.put(parts[0], Double.parseDouble(parts[parts.length - 1]));
      } catch (NumberFormatException e) {
        throw new IllegalArgumentException(
            "%s, line %d: a name, a tab and a ratio are expected. Write the file anew with --keep."
                .formatted(file, number),
            e);
      }
    }
    return ratios;
  }

  /** {@return a table of comparisons, what got worse marked} */
  static String table(List<Compared> all) {
    StringBuilder text = new StringBuilder();
    for (Compared it : all) {
      text.append(
          String.format(
              Locale.ROOT,
              "%-8s %5.2f times as before: %s%n",
              it.worse() ? "WORSE" : it.better() ? "better" : "",
              it.factor(),
              it.what()));
    }
    return text.toString();
  }
}
