package mandala.server.history;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.util.List;
import java.util.Locale;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.job.Job;
import mandala.server.job.JobOrders;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** The trail, as far as one may read it (section 11): of accounts, and of oneself. */
@RestController
@RequestMapping("/api/trail")
class TrailController {

  private static final int MOST = 500;

  private final TrailReader reader;
  private final JobOrders orders;
  private final RequestContexts contexts;
  private final Trail trail;
  private final AuditContext auditContext;

  TrailController(
      TrailReader reader,
      JobOrders orders,
      RequestContexts contexts,
      Trail trail,
      AuditContext auditContext) {
    this.reader = reader;
    this.orders = orders;
    this.contexts = contexts;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /**
   * A stretch of the trail.
   *
   * @param total how many lines fit
   * @param limited whether the viewer is told of some accounts, or only of themselves
   */
  record TrailPage(long total, boolean limited, List<TrailReader.TrailLine> lines) {}

  private static TrailFilter.Condition condition(TrailFilter filter, RequestContext context) {
    ReadPolicy policy = context.readPolicy();
    String own = policy.isCut() ? "" : policy.viewer().value(); // a token has no lines of its own
    return filter.condition(own, TrailFilter.readable(context));
  }

  @GetMapping
  TrailPage page(
      @ParameterObject TrailFilter filter,
      @RequestParam(required = false) @Nullable Long before,
      @RequestParam(defaultValue = "100") int limit) {
    RequestContext context = contexts.context();
    TrailFilter.Condition condition = condition(filter, context);
    List<String> accounts = TrailFilter.readable(context);
    ToldLines told = new ToldLines(context, accounts);
    return new TrailPage(
        reader.count(condition),
        accounts.size() < context.state().engine().catalogue().accounts().size(),
        reader
            .lines(condition, before == null ? Long.MAX_VALUE : before, Math.clamp(limit, 1, MOST))
            .stream()
            .map(told::of)
            .toList());
  }

  /** What to export: {@code csv} or {@code xlsx}, and which lines. */
  record ExportOrder(@NotBlank String format, @Nullable TrailFilter filter) {}

  /** Begins writing a file; it is the job's file when that is done. */
  @PostMapping("/exports")
  Job begin(@Valid @RequestBody ExportOrder order) {
    if (!order.format().equals("csv") && !order.format().equals("xlsx")) {
      throw Problem.badRequest("Unknown format", "Write csv or xlsx.");
    }
    boolean sheet = order.format().equals("xlsx");
    RequestContext context = contexts.context();
    TrailFilter filter =
        order.filter() == null
            ? new TrailFilter(null, null, null, null, null, null, null, null, null)
            : order.filter();
    long count = reader.count(condition(filter, context));
    if (sheet && count > TrailExportJob.MOST_ROWS) {
      throw Problem.badRequest(
          "Too much for a sheet",
          count
              + " lines fit; a sheet takes "
              + TrailExportJob.MOST_ROWS
              + ". Narrow the filter, or take CSV.");
    }
    List<String> accounts = TrailFilter.readable(context);
    Job job =
        orders.begin(
            TrailExportJob.NAME,
            "Trail as " + order.format().toUpperCase(Locale.ROOT),
            new TrailExportJob.Order(sheet, filter));
    trail.writeAlone(
        auditContext.by(
            AuditEvent.Act.EXPORTED, accounts, "Exported the trail as " + order.format()));
    return job;
  }
}
