package mandala.document.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import tools.jackson.databind.json.JsonMapper;

/**
 * An answer as rows.
 *
 * @param said what it amounts to, in one line
 * @param rows as many cells as the head has; texts and numbers
 */
record Table(String said, List<String> head, List<List<Object>> rows) {

  /** How a table is printed. */
  enum Format {
    text,
    csv,
    json
  }

  /** Copies its lists. */
  Table {
    head = List.copyOf(head);
    rows = List.copyOf(rows);
  }

  /** Prints it: as text for people with what it amounts to, else the rows alone. */
  void print(Format format, PrintWriter out) {
    switch (format) {
      case text -> text(out);
      case csv -> csv(out);
      case json -> out.println(JsonMapper.builder().build().writeValueAsString(objects()));
    }
    out.flush();
  }

  private List<Map<String, Object>> objects() {
    List<Map<String, Object>> objects = new ArrayList<>();
    for (List<Object> row : rows) {
      Map<String, Object> object = new LinkedHashMap<>();
      for (int i = 0; i < head.size(); i++) {
        object.put(head.get(i), row.get(i));
      }
      objects.add(object);
    }
    return objects;
  }

  private void csv(PrintWriter out) {
    CSVFormat format = CSVFormat.RFC4180.builder().setHeader(head.toArray(String[]::new)).get();
    try {
      CSVPrinter printer = new CSVPrinter(out, format);
      for (List<Object> row : rows) {
        printer.printRecord(row);
      }
      printer.flush();
    } catch (IOException e) {
      throw new IllegalStateException("Impossible state: a print writer does not throw", e);
    }
  }

  private void text(PrintWriter out) {
    out.println(said);
    if (rows.isEmpty()) {
      return;
    }
    out.println();
    int[] widths = new int[head.size()];
    for (int i = 0; i < widths.length; i++) {
      widths[i] = head.get(i).length();
      for (List<Object> row : rows) {
        widths[i] = Math.max(widths[i], String.valueOf(row.get(i)).length());
      }
    }
    line(new ArrayList<>(head), widths, out);
    rows.forEach(row -> line(row, widths, out));
  }

  private static void line(List<? extends Object> cells, int[] widths, PrintWriter out) {
    StringBuilder line = new StringBuilder("  ");
    for (int i = 0; i < widths.length; i++) {
      Object cell = cells.get(i);
      String pad = " ".repeat(widths[i] - String.valueOf(cell).length());
      line.append(cell instanceof Number ? pad + cell : cell + pad).append("  ");
    }
    out.println(line.toString().stripTrailing());
  }
}
