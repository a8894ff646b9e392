package mandala.bench;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
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

  private Baseline() {}

  /** One comparison with what was kept. */
  record Compared(String what, double was, double is) {
    double factor() {
      return is / was;
    }

    boolean worse() {
      return factor() > (what.startsWith("heap") ? HEAP_TOLERANCE : TOLERANCE);
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
    List<Compared> all = new ArrayList<>();
    int number = 0;
    for (String line : Files.readAllLines(file)) {
      number++;
      String[] parts = line.split("\t", -1);
      double was;
      try {
        was = Double.parseDouble(parts[parts.length - 1]);
      } catch (NumberFormatException e) {
        throw new IllegalArgumentException(
            "%s, line %d: a name, a tab and a ratio are expected. Write the file anew with --keep."
                .formatted(file, number),
            e);
      }
      Double is = now.get(parts[0]);
      if (is != null && was > 0) {
        all.add(new Compared(parts[0], was, is));
      }
    }
    return all;
  }

  /** {@return a table of comparisons, what got worse marked} */
  static String table(List<Compared> all) {
    StringBuilder text = new StringBuilder();
    for (Compared it : all) {
      text.append(
          String.format(
              Locale.ROOT,
              "%-8s %5.2f times what was kept: %s%n",
              it.worse() ? "WORSE" : it.factor() < 1 / TOLERANCE ? "better" : "",
              it.factor(),
              it.what()));
    }
    return text.toString();
  }
}
