package mandala.server.platform;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;

/**
 * A table that goes out as a file.
 *
 * @param name of the file, without its ending
 * @param head names of the columns
 * @param rows as many cells as the head has
 */
public record ExportTable(String name, List<String> head, List<List<Object>> rows) {

  /** The media type of a spreadsheet. */
  public static final String SHEET =
      "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

  /** A sign that begins a formula, also behind blanks and line ends, which programs pass over. */
  private static final Pattern FORMULA =
      Pattern.compile("[\\s\\p{Z}\\uFEFF]*[=+\\-@\uFF1D\uFF0B\uFF0D\uFF20]|[\\t\\r]");

  /** Copies its lists. */
  public ExportTable {
    head = List.copyOf(head);
    rows = List.copyOf(rows);
  }

  /**
   * Sends it.
   *
   * @param format {@code csv} (RFC 4180, UTF-8) or {@code xlsx}
   * @throws Problem if there is no such format
   */
  public void send(String format, HttpServletResponse response) throws IOException {
    switch (format) {
      case "csv" -> {
        begin(response, "text/csv;charset=utf-8", format);
        csv(response);
      }
      case "xlsx" -> {
        begin(response, SHEET, format);
        xlsx(response);
      }
      default ->
          throw Problem.badRequest("There is no format '" + format + "'", "Write csv or xlsx.");
    }
  }

  private void begin(HttpServletResponse response, String type, String ending) {
    response.setContentType(type);
    response.setHeader(
        "Content-Disposition", "attachment; filename=\"" + name + "." + ending + "\"");
  }

  private void csv(HttpServletResponse response) throws IOException {
    try (OutputStreamWriter writer =
        new OutputStreamWriter(response.getOutputStream(), StandardCharsets.UTF_8)) {
      csv(writer);
    }
  }

  private void csv(Appendable out) throws IOException {
    CSVFormat format = CSVFormat.RFC4180.builder().setHeader(head.toArray(String[]::new)).get();
    try (CSVPrinter printer = new CSVPrinter(out, format)) {
      for (List<Object> row : rows) {
        printer.printRecord(row.stream().map(ExportTable::harmless).toList());
      }
    }
  }

  /** {@return it as CSV (RFC 4180)}, for what is sent along with something else */
  public String csv() {
    StringBuilder text = new StringBuilder();
    try {
      csv(text);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return text.toString();
  }

  private void xlsx(HttpServletResponse response) throws IOException {
    try (Workbook book = new Workbook(response.getOutputStream(), "Mandala", "1.0")) {
      Worksheet sheet = book.newWorksheet(name);
      for (int column = 0; column < head.size(); column++) {
        sheet.value(0, column, head.get(column));
        sheet.style(0, column).bold().set();
      }
      for (int row = 0; row < rows.size(); row++) {
        for (int column = 0; column < head.size(); column++) {
          if (rows.get(row).get(column) instanceof Number number) {
            sheet.value(row + 1, column, number);
          } else {
            sheet.value(row + 1, column, String.valueOf(rows.get(row).get(column)));
          }
        }
      }
    }
  }

  /** {@return a cell that no spreadsheet takes for a formula} */
  public static Object harmless(Object cell) {
    return cell instanceof String text && FORMULA.matcher(text).lookingAt() ? "'" + text : cell;
  }
}
