package mandala.server.use;

import java.io.BufferedReader;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.YearMonth;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.excess.UseRecord;
import mandala.core.model.key.PrincipalKey;

/**
 * Records on their way into the database, in a file: whoever sends them slowly holds no connection.
 * A line is {@code whose, actor, permission, resource, day, count, known, told} in the text format
 * of PostgreSQL's COPY.
 */
final class UseRecords implements AutoCloseable {

  private final Path file;
  private final BufferedWriter lines;
  private long count;
  private long unknown;
  private final Set<YearMonth> months = new TreeSet<>();

  UseRecords() throws IOException {
    file = Files.createTempFile("use", ".copy");
    lines = Files.newBufferedWriter(file);
  }

  /**
   * Adds a record.
   *
   * @param known whether all that it names is in the model
   * @param told whether whoever sends it may know that
   */
  void add(UseRecord it, boolean known, boolean told) {
    try {
      PrincipalKey actor = it.actingFor() == null ? null : it.principal();
      text(it.whose().value());
      text(actor == null ? "" : actor.value());
      text(it.permission().value());
      text(it.resource().value());
      lines.append(it.day().toString()).append('\t');
      lines.append(Long.toString(it.count())).append('\t').append(known ? "t\t" : "f\t");
      lines.append(told ? 't' : 'f').append('\n');
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    count++;
    unknown += told ? 0 : 1;
    if (known) {
      months.add(YearMonth.from(it.day()));
    }
  }

  private void text(String value) throws IOException {
    for (int i = 0; i < value.length(); i++) {
      char at = value.charAt(i);
      switch (at) {
        case '\\' -> lines.append("\\\\");
        case '\t' -> lines.append("\\t");
        case '\n' -> lines.append("\\n");
        case '\r' -> lines.append("\\r");
        default -> lines.append(at);
      }
    }
    lines.append('\t');
  }

  /** {@return all lines}; nothing is added after this */
  BufferedReader read() throws IOException {
    lines.close();
    return Files.newBufferedReader(file);
  }

  long count() {
    return count;
  }

  /** {@return how many of them name what the sender may not know} */
  long unknown() {
    return unknown;
  }

  /** {@return the months of those that the model knows} */
  Set<YearMonth> months() {
    return months;
  }

  @Override
  public void close() throws IOException {
    lines.close();
    Files.deleteIfExists(file);
  }
}
