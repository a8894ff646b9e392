package mandala.document;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.MalformedInputException;
import java.time.LocalDate;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mandala.core.excess.UseRecord;
import mandala.core.model.check.Fault;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Reads use records (section 12). As JSON Lines, {@code mandala-use/1}, each line is an object
 * {@code {principal, permission, resource, day, count, actingFor}}, count 1 and actingFor none
 * where they are left out or null; blank lines do not count. As a table, each line is a record.
 */
public final class UseReader {

  private static final JsonMapper JSON =
      JsonMapper.builder().enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION).build();

  /** A date, with or without a time of day in UTC behind it. */
  private static final Pattern DAY =
      Pattern.compile("(\\d{4}-\\d\\d-\\d\\d)(?:[T ]\\d\\d:\\d\\d(?::\\d\\d(?:\\.\\d+)?)?Z)?");

  private UseReader() {}

  /** Takes records as they are read. */
  @FunctionalInterface
  public interface Sink {
    /**
     * Takes a record.
     *
     * @param path of the record, for a fault's own
     * @return what is wrong with it to whoever takes it, or null
     */
    @Nullable Fault take(String path, UseRecord it);
  }

  /**
   * Reads all lines, in order; what is faulty is left out.
   *
   * @param sink takes each record without a fault
   * @return all faults, their paths beginning with {@code line 3:}; lines from 1
   * @throws IOException if the input cannot be read
   */
  public static List<Fault> read(InputStream in, Consumer<UseRecord> sink) throws IOException {
    return read(
        in,
        Integer.MAX_VALUE,
        (_, it) -> {
          sink.accept(it);
          return null;
        });
  }

  /**
   * Reads lines, in order; what is faulty is left out.
   *
   * @param most how many faults make it stop reading
   * @param sink takes each record without a fault
   * @return the faults, their paths beginning with {@code line 3:}; lines from 1
   * @throws IOException if the input cannot be read
   */
  public static List<Fault> read(InputStream in, int most, Sink sink) throws IOException {
    List<Fault> faults = new ArrayList<>();
    BufferedReader lines = new BufferedReader(TableReader.text(in));
    int number = 0;
    try {
      for (String line = lines.readLine();
          line != null && faults.size() < most;
          line = lines.readLine()) {
        number++;
        // a byte order mark is no part of the first line
        String text = number == 1 && line.startsWith("\uFEFF") ? line.substring(1) : line;
        if (!text.isBlank()) {
          line(text, "line " + number + ": $", faults, sink);
        }
      }
    } catch (MalformedInputException _) {
      faults.add(
          new Fault(
              "after line " + number, "the file is not UTF-8", "Write it as UTF-8 and try again"));
    }
    return faults;
  }

  /**
   * Reads a table (RFC 4180) whose first line names the columns; what is faulty is left out, and so
   * are columns that nobody asks for.
   *
   * @param columns which of them have what
   * @param most how many faults make it stop reading
   * @param sink takes each record without a fault
   * @return the faults, their paths beginning with {@code line 3:}; lines from 1
   * @throws IOException if the input cannot be read
   */
  public static List<Fault> readTable(InputStream in, UseColumns columns, int most, Sink sink)
      throws IOException {
    return TableReader.read(
        in,
        List.of(columns.principal(), columns.permission(), columns.resource(), columns.day()),
        most,
        row -> row(row, columns, sink));
  }

  private static LocalDate day(TableReader.Row row, String column) {
    String cell = row.cell(column);
    Matcher day = DAY.matcher(cell);
    try {
      if (day.matches()) {
        return LocalDate.parse(day.group(1));
      }
    } catch (DateTimeParseException _) {
      // no such day: told below
    }
    row.faults()
        .add(
            new Fault(
                row.path() + column,
                "'" + cell + "' is no day",
                "Write a date like 2026-05-01, or an instant like 2026-05-01T09:00:00Z"));
    return LocalDate.EPOCH;
  }

  private static long count(TableReader.Row row, @Nullable String column) {
    String cell = row.cell(column);
    try {
      return cell.isEmpty() ? 1 : Long.parseLong(cell);
    } catch (NumberFormatException _) {
      row.faults()
          .add(
              new Fault(
                  row.path() + column, "'" + cell + "' is no whole number", "Write 1 or more"));
      return 1;
    }
  }

  private static void row(TableReader.Row row, UseColumns columns, Sink sink) {
    int before = row.faults().size();
    PrincipalKey principal = new PrincipalKey(row.key(columns.principal()));
    PermissionKey permission = new PermissionKey(row.key(columns.permission()));
    ResourceKey resource = new ResourceKey(row.key(columns.resource()));
    LocalDate day = day(row, columns.day());
    long count = count(row, columns.count());
    String other = row.cell(columns.actingFor());
    PrincipalKey actingFor = other.isEmpty() ? null : new PrincipalKey(other);
    if (row.faults().size() == before) {
      take(
          row.path().stripTrailing(),
          new Parts(principal, permission, resource, day, count, actingFor),
          row.faults(),
          sink);
    }
  }

  private record Parts(
      PrincipalKey principal,
      PermissionKey permission,
      ResourceKey resource,
      LocalDate day,
      long count,
      @Nullable PrincipalKey actingFor) {}

  private static void take(String path, Parts it, List<Fault> faults, Sink sink) {
    UseRecord.faultOf(path, it.principal(), it.count(), it.actingFor())
        .ifPresentOrElse(
            faults::add,
            () -> {
              Fault fault =
                  sink.take(
                      path,
                      new UseRecord(
                          it.principal(),
                          it.permission(),
                          it.resource(),
                          it.day(),
                          it.count(),
                          it.actingFor()));
              if (fault != null) {
                faults.add(fault);
              }
            });
  }

  private static void line(String text, String path, List<Fault> faults, Sink sink) {
    JsonNode json;
    try {
      json = JSON.readTree(text);
    } catch (JacksonException e) {
      faults.add(
          new Fault(
              path,
              "this is not JSON: " + e.getOriginalMessage(),
              "Write one JSON object on the line"));
      return;
    }
    if (!json.isObject()) {
      faults.add(new Fault(path, "this is no JSON object", "Write one JSON object on the line"));
      return;
    }
    record(new Node(json, path, faults), path, faults, sink);
  }

  private static void record(Node in, String path, List<Fault> faults, Sink sink) {
    int before = faults.size();
    PrincipalKey principal = in.requiredKey("principal", PrincipalKey::new);
    PermissionKey permission = in.requiredKey("permission", PermissionKey::new);
    ResourceKey resource = in.requiredKey("resource", ResourceKey::new);
    LocalDate day = in.requiredDay("day");
    long count = in.wholeNumber("count", 1);
    PrincipalKey actingFor = in.isNull("actingFor") ? null : in.key("actingFor", PrincipalKey::new);
    in.close();
    if (faults.size() == before) {
      take(path, new Parts(principal, permission, resource, day, count, actingFor), faults, sink);
    }
  }
}
