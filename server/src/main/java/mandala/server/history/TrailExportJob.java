package mandala.server.history;

import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.List;
import java.util.function.Consumer;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.job.JobKind;
import mandala.server.job.JobOrder;
import mandala.server.job.JobRun;
import mandala.server.platform.ExportTable;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Writes all lines of the trail that fit a filter, and that its viewer may read, to a file. */
@Component
class TrailExportJob implements JobKind {

  static final String NAME = "trail-export";

  private static final Logger LOG = LoggerFactory.getLogger(TrailExportJob.class);

  private static final JsonMapper JSON = JsonMapper.builder().build();

  /** A sheet has no more rows than this. */
  static final int MOST_ROWS = 1_048_575;

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
  private final Trail trail;
  private final RequestContexts contexts;
  private final Clock clock;

  TrailExportJob(TrailReader reader, Trail trail, RequestContexts contexts, Clock clock) {
    this.reader = reader;
    this.trail = trail;
    this.contexts = contexts;
    this.clock = clock;
  }

  /**
   * What is written.
   *
   * @param sheet whether as a spreadsheet; else as CSV
   */
  record Order(boolean sheet, TrailFilter filter) {}

  @Override
  public String name() {
    return NAME;
  }

  @Override
  public void run(JobRun run) throws IOException {
    Order order = order(run.order());
    RequestContext context = run.context(null, null);
    List<String> accounts = TrailFilter.readable(context);
    TrailFilter.Condition condition =
        order.filter().condition(context.readPolicy().viewer().value(), accounts);
    long of = reader.count(condition);
    Lines lines = new Lines(condition, new ToldLines(context, accounts), run, of);
    run.progress(0, of);
    if (order.sheet()) {
      sheet(lines, run);
    } else {
      text(lines, run);
    }
    run.progress(of, of);
  }

  private static Order order(JobOrder order) {
    return JSON.treeToValue(order.details(), Order.class);
  }

  /** The lines that are written, counted while they are read. */
  private final class Lines {
    private final TrailFilter.Condition condition;
    private final ToldLines told;
    private final JobRun run;
    private final long of;
    private long done;

    Lines(TrailFilter.Condition condition, ToldLines told, JobRun run, long of) {
      this.condition = condition;
      this.told = told;
      this.run = run;
      this.of = of;
    }

    void each(Consumer<List<String>> sink) {
      reader.each(
          condition,
          line -> {
            sink.accept(cells(told.of(line)));
            done++;
            if (done % 100 == 0) {
              run.progress(Math.min(done, Math.max(0, of - 1)), of);
            }
          });
    }
  }

  private static void text(Lines lines, JobRun run) throws IOException {
    CSVFormat format = CSVFormat.RFC4180.builder().setHeader(HEAD.toArray(String[]::new)).get();
    try (OutputStream out = run.file("mandala-trail.csv", "text/csv; charset=utf-8");
        Writer writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
        CSVPrinter printer = new CSVPrinter(writer, format)) {
      lines.each(cells -> {
        try {
          printer.printRecord(cells.stream().map(ExportTable::harmless).toList());
        } catch (IOException e) {
          throw new UncheckedIOException(e);
        }
      });
    }
  }

  private static void sheet(Lines lines, JobRun run) throws IOException {
    try (OutputStream out = run.file("mandala-trail.xlsx", ExportTable.SHEET);
        Workbook book = new Workbook(out, "Mandala", "1.0")) {
      Worksheet sheet = book.newWorksheet("Trail");
      for (int column = 0; column < HEAD.size(); column++) {
        sheet.value(0, column, HEAD.get(column));
        sheet.style(0, column).bold().set();
      }
      int[] row = {1};
      lines.each(cells -> {
        for (int column = 0; column < cells.size(); column++) {
          String cell = cells.get(column);
          sheet.value(row[0], column, cell.length() > 32_000 ? cell.substring(0, 32_000) : cell);
        }
        row[0]++;
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

  @Override
  public void failed(JobOrder order) {
    try {
      RequestContext context = contexts.of(order.session(clock.instant()));
      trail.writeAlone(
          AuditEvent.of(
              AuditEvent.Act.EXPORTED,
              order.owner(),
              null,
              TrailFilter.readable(context),
              "The export of the trail as " + (order(order).sheet() ? "xlsx" : "csv") + " failed",
              null));
    } catch (RuntimeException e) {
      LOG.error("That an export of the trail failed can't be written into it: {}", e.toString());
    }
  }
}
