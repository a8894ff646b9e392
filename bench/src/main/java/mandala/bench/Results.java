package mandala.bench;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/** Rows of a table: what was measured, in which unit, typically and at worst. */
final class Results {

  /** One row. */
  record Row(String what, String unit, double typical, double tail) {}

  private final List<Row> rows = new ArrayList<>();

  /** One figure. */
  void put(String what, String unit, double value) {
    rows.add(new Row(what, unit, value, Double.NaN));
  }

  /** The first run and a later one: kept as the tail and as what is typical. */
  void put(String what, String unit, double first, double later) {
    rows.add(new Row(what, unit, later, first));
  }

  /** Samples in microseconds: their median and their 99th percentile. */
  void sampled(String what, double[] micros) {
    double[] sorted = micros.clone();
    Arrays.sort(sorted);
    rows.add(new Row(what, "µs", sorted[sorted.length / 2], sorted[(int) (sorted.length * 0.99)]));
  }

  /** The engine against something else on the same questions, in microseconds. */
  void compared(String what, double engine, double other, String note) {
    comparisons.add(new Comparison(what, engine, other, note));
  }

  /** One comparison. */
  record Comparison(String what, double engine, double other, String note) {
    double ratio() {
      return other / engine;
    }
  }

  private final List<Comparison> comparisons = new ArrayList<>();

  List<Comparison> comparisons() {
    return List.copyOf(comparisons);
  }

  void add(Row row) {
    rows.add(row);
  }

  List<Row> rows() {
    return List.copyOf(rows);
  }

  /** {@return the rows as a Markdown table} */
  String table() {
    StringBuilder text = new StringBuilder("| what | typical | tail |\n| --- | ---: | ---: |\n");
    for (Row row : rows) {
      text.append("| ")
          .append(row.what)
          .append(" | ")
          .append(figure(row.typical, row.unit))
          .append(" | ")
          .append(Double.isNaN(row.tail) ? "" : figure(row.tail, row.unit))
          .append(" |\n");
    }
    if (!comparisons.isEmpty()) {
      text.append("\n| against | engine | the other | times faster | |\n")
          .append("| --- | ---: | ---: | ---: | --- |\n");
      comparisons.forEach(it ->
          text.append(
              String.format(
                  Locale.ROOT,
                  "| %s | %s | %s | %,.0f | %s |%n",
                  it.what,
                  figure(it.engine, "µs"),
                  figure(it.other / 1e3, "ms"),
                  it.ratio(),
                  it.note)));
    }
    return text.toString();
  }

  private static String figure(double value, String unit) {
    String digits = value < 10 ? "%.2f %s" : value < 100 ? "%.1f %s" : "%.0f %s";
    return String.format(Locale.ROOT, digits, value, unit);
  }
}
