package mandala.server.history;

import jakarta.annotation.PostConstruct;
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
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.Stream;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.platform.ExportTable;
import mandala.server.platform.Problem;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.util.FileSystemUtils;

/**
 * Writes all lines that fit a filter to a file, in the background. Files are kept for an hour and
 * fetched by whoever began them; what a crash left of an earlier run is deleted at the start. A
 * person has a few exports at a time, and all together a few more; an export ends where it grows
 * beyond a limit.
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

  /** How many exports of one person are kept, running ones too; and of all together. */
  static final int MOST_OF_ONE = 3;

  static final int MOST_OF_ALL = 30;

  /** How large a file may become. */
  private static final long MOST_BYTES = 1L << 30;

  private static final String FOLDER = "exports";

  private final TrailReader reader;
  private final Trail trail;
  private final Clock clock;
  private final Path folder;
  private final ExecutorService worker = Executors.newFixedThreadPool(2);
  private final Map<String, Export> exports = new ConcurrentHashMap<>();

  TrailExports(TrailReader reader, Trail trail, Clock clock, @Value("${mandala.keys}") Path keys) {
    this.reader = reader;
    this.trail = trail;
    this.clock = clock;
    // instances share the folder of keys, not what each writes
    this.folder =
        keys.resolve(FOLDER)
            .resolve(nameOf(ProcessHandle.current()) + UUID.randomUUID().toString());
  }

  /** Deletes what instances that are no more left behind. */
  @PostConstruct
  void clean() {
    Path all = folder.getParent();
    if (all == null || !Files.isDirectory(all)) {
      return;
    }
    try (Stream<Path> found = Files.list(all)) {
      for (Path each : found.toList()) {
        String name = each.getFileName().toString();
        boolean alive =
            ProcessHandle.of(Long.parseLong(name.substring(0, name.indexOf('-'))))
                .filter(it -> name.startsWith(nameOf(it)))
                .isPresent();
        if (!alive) {
          FileSystemUtils.deleteRecursively(each);
        }
      }
    } catch (IOException | IndexOutOfBoundsException | NumberFormatException e) {
      LOG.warn("What an earlier run left of exports can't be deleted: {}", e.toString());
    }
  }

  /** A process by number and start, for numbers come again. */
  private static String nameOf(ProcessHandle process) {
    return process.pid()
        + "-"
        + process.info().startInstant().map(Instant::toEpochMilli).orElse(0L)
        + "-";
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

    /** {@return whether nothing is written any more} */
    boolean isOver() {
      return file != null || failed || cancelled;
    }

    Export(String owner, boolean sheet, Instant begun) {
      this.owner = owner;
      this.sheet = sheet;
      this.begun = begun;
    }
  }

  /**
   * Begins an export and gives its id.
   *
   * @param ifFailed goes into the trail where it fails
   */
  String begin(
      String owner,
      boolean sheet,
      TrailFilter.Condition condition,
      ToldLines told,
      AuditEvent ifFailed) {
    forgetOld();
    requireRoom(owner);
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
    worker.execute(() -> write(export, condition, told, ifFailed));
    return id;
  }

  /** What is done gives way, the oldest first; what runs does not. */
  private void requireRoom(String owner) {
    makeRoom(exports.values().stream().filter(it -> it.owner.equals(owner)).toList(), MOST_OF_ONE);
    makeRoom(List.copyOf(exports.values()), MOST_OF_ALL);
    long running = exports.values().stream().filter(it -> it.owner.equals(owner)).count();
    if (running >= MOST_OF_ONE || exports.size() >= MOST_OF_ALL) {
      throw Problem.conflict(
          "Too many exports at once",
          "At most "
              + MOST_OF_ONE
              + " of one person run at a time. Wait until one is done, or cancel one.");
    }
  }

  private void makeRoom(List<Export> of, int most) {
    of.stream()
        .filter(Export::isOver)
        .sorted(Comparator.comparing((Export it) -> it.begun))
        .limit(Math.max(0, of.size() - most + 1))
        .forEach(it -> {
          exports.values().remove(it);
          delete(it.file);
        });
  }

  /** {@return an export of its owner} */
  Export of(String id, String owner) {
    Export export = exports.get(id);
    if (export == null || !export.owner.equals(owner)) {
      throw Problem.notFound("This export has expired. Start it again.");
    }
    return export;
  }

  private static final class Cancelled extends RuntimeException {
    private static final long serialVersionUID = 1;
  }

  private void write(
      Export export, TrailFilter.Condition condition, ToldLines told, AuditEvent ifFailed) {
    Path file = null;
    try {
      Files.createDirectories(folder);
      file = Files.createTempFile(folder, "trail", export.sheet ? ".xlsx" : ".csv");
      if (export.sheet) {
        sheet(export, condition, told, file);
      } else {
        text(export, condition, told, file);
      }
      export.file = file;
    } catch (IOException | RuntimeException | Error e) {
      delete(file);
      if (!(e instanceof Cancelled)) {
        LOG.warn("An export of the trail failed: {}", e.toString());
        note(ifFailed);
        export.failed = true;
      }
    }
  }

  private void note(AuditEvent ifFailed) {
    try {
      trail.writeAlone(ifFailed);
    } catch (RuntimeException e) {
      LOG.error("That an export of the trail failed can't be written into it: {}", e.toString());
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

  private static void count(Export export, Path file) {
    long done = export.done.incrementAndGet();
    if (export.cancelled) {
      throw new Cancelled();
    }
    if (done % 10_000 == 0 && file.toFile().length() > MOST_BYTES) {
      throw new IllegalStateException("It is larger than " + MOST_BYTES + " bytes");
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
              printer.printRecord(
                  cells(told.of(line)).stream().map(ExportTable::harmless).toList());
            } catch (IOException e) {
              throw new UncheckedIOException(e);
            }
            count(export, file);
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
            count(export, file);
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
    try {
      FileSystemUtils.deleteRecursively(folder);
    } catch (IOException e) {
      LOG.warn("Exports can't be deleted: {}", e.toString());
    }
  }
}
