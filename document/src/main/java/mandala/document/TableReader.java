package mandala.document;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.PushbackReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.nio.charset.CodingErrorAction;
import java.nio.charset.MalformedInputException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.function.Consumer;
import mandala.core.model.check.Fault;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.DuplicateHeaderMode;
import org.jspecify.annotations.Nullable;

/** Reads tables (RFC 4180) in UTF-8 whose first line names the columns. */
final class TableReader {

  private static final CSVFormat TABLE =
      CSVFormat.RFC4180
          .builder()
          .setHeader()
          .setSkipHeaderRecord(true)
          .setIgnoreEmptyLines(true)
          .setAllowMissingColumnNames(true)
          .setDuplicateHeaderMode(DuplicateHeaderMode.ALLOW_ALL)
          .get();

  private TableReader() {}

  /**
   * A line of a table whose cells are read by the names of their columns.
   *
   * @param path {@code line 3: }, which begins the paths of its faults
   * @param faults takes them
   */
  record Row(CSVRecord cells, String path, List<Fault> faults) {

    /** {@return what is in a column}, empty where there is none or no such column */
    String cell(@Nullable String column) {
      return column != null && cells.isSet(column) ? cells.get(column).strip() : "";
    }

    /** {@return the key in a column}, {@code ?} after a fault where there is none */
    String key(String column) {
      String cell = cell(column);
      if (cell.isEmpty() || !Characters.areText(cell)) {
        faults.add(
            new Fault(
                path + column,
                cell.isEmpty() ? "there is nothing" : "'" + cell + "' is no key",
                "Write a key"));
      }
      return cell.isEmpty() ? "?" : cell;
    }
  }

  /**
   * Reads lines, in order; columns that nobody asks for are left out.
   *
   * @param needed columns that must be there, each once
   * @param most how many faults make it stop reading
   * @param sink takes each line, and adds its faults
   * @return the faults, their paths beginning with {@code line 3:}; lines from 1
   * @throws IOException if the input cannot be read
   */
  static List<Fault> read(InputStream in, List<String> needed, int most, Consumer<Row> sink)
      throws IOException {
    List<Fault> faults = new ArrayList<>();
    long line = 0;
    try (CSVParser rows = TABLE.parse(withoutMark(text(in)))) {
      for (String column : needed) {
        int found = Collections.frequency(rows.getHeaderNames(), column);
        if (found != 1) {
          faults.add(
              new Fault(
                  "line 1",
                  (found == 0 ? "there is no column '" : "there are several columns '")
                      + column
                      + "'",
                  "Name each column once on the first line, or change the columns of the source"));
        }
      }
      for (Iterator<CSVRecord> it = rows.iterator();
          faults.size() < most && (line > 0 || faults.isEmpty()) && it.hasNext(); ) {
        CSVRecord row = it.next();
        line = rows.getCurrentLineNumber();
        sink.accept(new Row(row, "line " + line + ": ", faults));
      }
    } catch (MalformedInputException _) {
      faults.add(notUtf8(line));
    } catch (CSVException | UncheckedIOException e) {
      faults.add(
          e.getCause() instanceof MalformedInputException
              ? notUtf8(line)
              : new Fault(
                  "after line " + Math.max(line, 1),
                  "this is no table: a quoted cell does not end",
                  "Write it as CSV in UTF-8 and try again"));
    }
    return faults;
  }

  private static Fault notUtf8(long line) {
    return new Fault(
        "after line " + Math.max(line, 1),
        "the file is not UTF-8",
        "Write it as UTF-8 and try again");
  }

  /** {@return the text of a stream}, reading of which fails where it is not UTF-8 */
  static InputStreamReader text(InputStream in) {
    return new InputStreamReader(
        in, StandardCharsets.UTF_8.newDecoder().onMalformedInput(CodingErrorAction.REPORT));
  }

  private static Reader withoutMark(Reader in) throws IOException {
    PushbackReader text = new PushbackReader(in);
    int first = text.read();
    if (first >= 0 && first != '\uFEFF') {
      text.unread(first);
    }
    return text;
  }
}
