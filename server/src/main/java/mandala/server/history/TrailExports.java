package mandala.server.history;

import jakarta.annotation.PreDestroy;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import mandala.server.platform.Problem;
import mandala.server.platform.Sheet;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;

/**
 * Writes all lines that fit a filter to a file, in the background. Files are kept for an hour and
 * fetched by whoever began them.
 */
@Component
class TrailExports {

  private static final Logger LOG = LoggerFactory.getLogger(TrailExports.class);
  private static final Duration KEPT = Duration.ofHours(1);

  /** A sheet has no more rows than this. */
  private static final int MOST_ROWS = 1_048_575;

  private static final List<String> HEAD =
      List.of(
          "line",
          "at",
          "who",
          "name",
          "acting for",
          "act",
          "revision",
          "kind",
          "thing",
          "called",
          "said",
          "before",
          "after",
          "from",
          "hash");

  private final TrailReader reader;
  private final Clock clock;
  private final ExecutorService worker = Executors.newFixedThreadPool(2);
  private final Map<String, Export> exports = new ConcurrentHashMap<>();

  TrailExports(TrailReader reader, Clock clock) {
    this.reader = reader;
    this.clock = clock;
  }

  /** One export. */
  static final class Export {
    final String owner;
    final boolean sheet;
    final Instant begun;
    final java.util.concurrent.atomic.AtomicLong done =
        new java.util.concurrent.atomic.AtomicLong();
    volatile long of;
    volatile @Nullable Path file;
    volatile boolean failed;
    volatile boolean cancelled;

    Export(String owner, boolean sheet, Instant begun) {
      this.owner = owner;
      this.sheet = sheet;
      this.begun = begun;
    }
  }

  /** Begins an export and gives its id. */
  String begin(String owner, boolean sheet, TrailFilter.Condition condition, ToldLines told) {
    forgetOld();
    long count = reader.count(condition);
    if (sheet && count > MOST_ROWS) {
      throw Problem.badRequest(
          "Too much for a sheet",
          count + " lines fit; a sheet takes " + MOST_ROWS + ". Narrow the filter, or take CSV.");
    }
    String id = UUID.randomUUID().toString();
    Export export = new Export(owner, sheet, clock.instant());
    export.of = count;
    exports.put(id, export);
    worker.execute(() -> write(export, condition, told));
    return id;
  }

  /** {@return an export of its owner} */
  Export of(String id, String owner) {
    Export export = exports.get(id);
    if (export == null || !export.owner.equals(owner)) {
      throw Problem.notFound("There is no such export any more. Begin it again.");
    }
    return export;
  }

  private static final class Cancelled extends RuntimeException {
    private static final long serialVersionUID = 1;
  }

  private void write(Export export, TrailFilter.Condition condition, ToldLines told) {
    Path file = null;
    try {
      file = Files.createTempFile("mandala-trail", export.sheet ? ".xlsx" : ".csv");
      file.toFile().deleteOnExit();
      if (export.sheet) {
        sheet(export, condition, told, file);
      } else {
        text(export, condition, told, file);
      }
      export.file = file;
    } catch (IOException | RuntimeException e) {
      export.failed = !(e instanceof Cancelled);
      if (export.failed) {
        LOG.warn("An export of the trail failed", e);
      }
      delete(file);
    }
  }

  private static void delete(@Nullable Path file) {
    try {
      if (file != null) {
        Files.deleteIfExists(file);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static void count(Export export) {
    export.done.incrementAndGet();
    if (export.cancelled) {
      throw new Cancelled();
    }
  }

  private void text(Export export, TrailFilter.Condition condition, ToldLines told, Path file)
      throws IOException {
    CSVFormat format = CSVFormat.RFC4180.builder().setHeader(HEAD.toArray(String[]::new)).get();
    try (BufferedWriter writer = Files.newBufferedWriter(file, StandardCharsets.UTF_8);
        CSVPrinter printer = new CSVPrinter(writer, format)) {
      reader.each(
          condition,
          line -> {
            try {
              printer.printRecord(cells(told.of(line)).stream().map(Sheet::harmless).toList());
            } catch (IOException e) {
              throw new UncheckedIOException(e);
            }
            count(export);
          });
    }
  }

  private void sheet(Export export, TrailFilter.Condition condition, ToldLines told, Path file)
      throws IOException {
    try (OutputStream out = Files.newOutputStream(file);
        Workbook book = new Workbook(out, "Mandala", "1.0")) {
      Worksheet sheet = book.newWorksheet("Trail");
      for (int column = 0; column < HEAD.size(); column++) {
        sheet.value(0, column, HEAD.get(column));
        sheet.style(0, column).bold().set();
      }
      reader.each(
          condition,
          line -> {
            int row = (int) export.done.get() + 1;
            List<String> cells = cells(told.of(line));
            for (int column = 0; column < cells.size(); column++) {
              String cell = cells.get(column);
              sheet.value(row, column, cell.length() > 32_000 ? cell.substring(0, 32_000) : cell);
            }
            count(export);
          });
    }
  }

  private static List<String> cells(TrailReader.TrailLine it) {
    return List.of(
        Long.toString(it.seq()),
        it.at().toString(),
        or(it.who()),
        or(it.whoName()),
        or(it.actingFor()),
        it.act(),
        or(it.revision()),
        or(it.kind()),
        or(it.thing()),
        or(it.name()),
        it.said(),
        or(it.before()),
        or(it.after()),
        or(it.address()),
        it.hash());
  }

  private static String or(@Nullable Object value) {
    return value == null ? "" : value.toString();
  }

  private void forgetOld() {
    Instant old = clock.instant().minus(KEPT);
    exports
        .values()
        .removeIf(export -> {
          boolean goes = export.begun.isBefore(old);
          if (goes) {
            delete(export.file);
          }
          return goes;
        });
  }

  @PreDestroy
  void stop() {
    worker.shutdownNow();
    exports.values().forEach(export -> delete(export.file));
  }
}
