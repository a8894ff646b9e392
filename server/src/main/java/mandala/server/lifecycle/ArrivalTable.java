package mandala.server.lifecycle;

import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import mandala.server.field.DeclaredField;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import org.apache.commons.csv.CSVException;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.DuplicateHeaderMode;
import org.jspecify.annotations.Nullable;

/**
 * A list of people as somebody has it: a table (RFC 4180) whose first line names the columns, or
 * addresses, one to a line or between commas, with or without a name before them (RFC 5322, section
 * 3.4).
 *
 * @param columns as they are named; none of addresses
 * @param rows what is in each, by column, in order
 */
record ArrivalTable(List<String> columns, List<Row> rows) {

  /** The most rows of one list. */
  static final int MOST = 5_000;

  /** Facts that a column can hold, in the order in which they are looked for. */
  static final List<String> FACTS =
      List.of("name", "email", "key", "title", "unit", "manager", "group", "from", "until");

  private static final Pattern MAILBOX =
      Pattern.compile(
          "\\s*\"?(?<name>[^\"<>@]*?)\"?\\s*<?(?<address>[^\\s<>,;@]+@[^\\s<>,;@]+)>?\\s*");

  /** Other names that people give to columns. */
  private static final Map<String, List<String>> ALSO =
      Map.of(
          "number", List.of("personnel number", "employee number", "staff number", "no."),
          "name", List.of("full name", "display name", "person"),
          "email", List.of("e-mail", "mail", "address", "e-mail address", "email address"),
          "key", List.of("id", "number", "personnel number", "user name", "username"),
          "title", List.of("job", "job title", "position", "role"),
          "unit", List.of("department", "team", "organisational unit"),
          "manager", List.of("reports to", "supervisor"),
          "group", List.of("groups"),
          "from", List.of("start", "begins", "first day"),
          "until", List.of("end", "ends", "last day"));

  /** A row: on which line it begins, and what it says. */
  record Row(long line, Map<String, String> cells) {

    /** {@return what is in a column}, empty where there is nothing */
    String cell(String column) {
      return cells.getOrDefault(column, "");
    }
  }

  /**
   * {@return the list in a text}
   *
   * @throws Problem if it is too long, or no list
   */
  static ArrivalTable read(String text) {
    String plain = text.strip();
    if (plain.isEmpty()) {
      throw Problem.badRequest("The list is empty", "Paste addresses or a table.");
    }
    return isAddresses(plain) ? addresses(plain) : table(plain, MOST);
  }

  /**
   * {@return the table in a text}
   *
   * @param most rows that it may have
   * @throws Problem if it is too long, or no table
   */
  static ArrivalTable table(String text, int most) {
    if (text.isBlank()) {
      throw Problem.badRequest(
          "The list is empty", "Give a table whose first line names the columns.");
    }
    return readTable(text.strip(), most);
  }

  private static boolean isAddresses(String text) {
    String first = text.lines().findFirst().orElse("");
    return first.contains("@");
  }

  private static ArrivalTable addresses(String text) {
    List<Row> rows = new ArrayList<>();
    long line = 0;
    for (String each : text.split("\\R", -1)) {
      line++;
      for (String one : each.split("[,;](?=[^\"]*(\"[^\"]*\"[^\"]*)*$)", -1)) {
        if (!one.isBlank()) {
          rows.add(address(one, line));
          requireFew(rows, MOST);
        }
      }
    }
    return new ArrivalTable(List.of(), rows);
  }

  private static Row address(String text, long line) {
    Matcher found = MAILBOX.matcher(text);
    if (!found.matches()) {
      return new Row(line, Map.of("email", text.strip()));
    }
    String address = found.group("address");
    String name = found.group("name").strip();
    return new Row(line, Map.of("email", address, "name", name.isEmpty() ? nameOf(address) : name));
  }

  /** {@return a name made of an address}: {@code Juno Teasel} of {@code juno.teasel@…} */
  private static String nameOf(String address) {
    StringBuilder name = new StringBuilder();
    for (String part : address.substring(0, address.indexOf('@')).split("[._-]+", -1)) {
      if (!part.isEmpty()) {
        name.append(name.isEmpty() ? "" : " ")
            .append(part.substring(0, 1).toUpperCase(Locale.ROOT))
            .append(part.substring(1));
      }
    }
    return name.isEmpty() ? address : name.toString();
  }

  private static ArrivalTable readTable(String text, int most) {
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setDelimiter(delimiter(text))
            .setHeader()
            .setSkipHeaderRecord(true)
            .setIgnoreEmptyLines(true)
            .setAllowMissingColumnNames(true)
            .setDuplicateHeaderMode(DuplicateHeaderMode.ALLOW_ALL)
            .get();
    try (CSVParser parser = format.parse(new StringReader(text))) {
      List<String> columns =
          parser.getHeaderNames().stream().map(String::strip).filter(it -> !it.isEmpty()).toList();
      List<Row> rows = new ArrayList<>();
      for (CSVRecord record : parser) {
        Map<String, String> cells = new LinkedHashMap<>();
        for (String column : parser.getHeaderNames()) {
          if (record.isSet(column) && !column.isBlank()) {
            cells.putIfAbsent(column.strip(), record.get(column).strip());
          }
        }
        rows.add(new Row(parser.getCurrentLineNumber(), cells));
        requireFew(rows, most);
      }
      return new ArrivalTable(columns, rows);
    } catch (CSVException | UncheckedIOException e) {
      throw Problem.badRequest(
          "This is no table", "A quoted cell does not end. Write it as CSV and try again.");
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static char delimiter(String text) {
    String head = text.lines().findFirst().orElse("");
    return head.indexOf('\t') >= 0 ? '\t' : head.indexOf(';') >= 0 ? ';' : ',';
  }

  private static void requireFew(List<Row> rows, int most) {
    if (rows.size() > most) {
      throw Problem.badRequest(
          "The list is too long", "It has more than %,d people. Split it.".formatted(most));
    }
  }

  /**
   * {@return which column holds which fact}: as chosen, else by the names of the columns
   *
   * @param facts that it can have, with what else a column of each can be called
   * @param chosen by fact; an empty name for none
   */
  Map<String, String> mapping(Map<String, List<String>> facts, Map<String, String> chosen) {
    Map<String, String> mapping = new LinkedHashMap<>();
    for (String fact : facts.keySet()) {
      String column =
          columns.isEmpty()
              ? fact
              : chosen.containsKey(fact)
                  ? chosen.get(fact)
                  : named(fact, facts.getOrDefault(fact, List.of())).orElse("");
      if (column != null && !column.isEmpty() && (columns.isEmpty() || columns.contains(column))) {
        mapping.put(fact, column);
      }
    }
    return mapping;
  }

  /** A row that was not taken, and why. */
  record Left(Row row, String why) {}

  /** {@return rows that were not taken as a file}, null where there is none */
  @Nullable String fileOf(List<Left> left) {
    if (left.isEmpty()) {
      return null;
    }
    List<String> named = columns.isEmpty() ? List.of("name", "email") : columns;
    List<String> head = new ArrayList<>(named);
    head.add("why it was not taken");
    List<List<Object>> lines = new ArrayList<>();
    for (Left it : left) {
      List<Object> cells = new ArrayList<>();
      named.forEach(column -> cells.add(it.row().cell(column)));
      cells.add(it.why());
      lines.add(cells);
    }
    return new ExportTable("not taken", head, lines).csv();
  }

  private Optional<String> named(String fact, List<String> also) {
    return columns.stream()
        .filter(it -> {
          String plain = it.toLowerCase(Locale.ROOT);
          return plain.equals(fact) || also.stream().anyMatch(plain::equalsIgnoreCase);
        })
        .findFirst();
  }

  /**
   * {@return facts with the other names that people give to columns of each}
   *
   * @param declared fields that an account declares, by key
   */
  static Map<String, List<String>> facts(List<String> facts, Map<String, DeclaredField> declared) {
    Map<String, List<String>> all = new LinkedHashMap<>();
    facts.forEach(it -> all.put(it, ALSO.getOrDefault(it, List.of())));
    declared.forEach((key, it) -> all.putIfAbsent(key, List.of(it.label())));
    return all;
  }
}
