package mandala.server.history;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import java.nio.file.Path;
import java.util.List;
import mandala.core.model.Key;
import mandala.core.model.Supplied;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.core.io.FileSystemResource;
import org.springframework.core.io.Resource;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
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
  private final TrailExports exports;
  private final RequestContexts contexts;
  private final Trail trail;
  private final AuditContext auditContext;

  TrailController(
      TrailReader reader,
      TrailExports exports,
      RequestContexts contexts,
      Trail trail,
      AuditContext auditContext) {
    this.reader = reader;
    this.exports = exports;
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

  private static List<String> accounts(RequestContext context) {
    return context.state().engine().catalogue().accounts().keySet().stream()
        .filter(it -> context.readPolicy().may(Supplied.TRAIL_READ, Key.Resource.of(it)))
        .map(Key::value)
        .toList();
  }

  private static TrailFilter.Condition condition(TrailFilter filter, RequestContext context) {
    return filter.condition(context.readPolicy().viewer().value(), accounts(context));
  }

  @GetMapping
  TrailPage page(
      @ParameterObject TrailFilter filter,
      @RequestParam(required = false) @Nullable Long before,
      @RequestParam(defaultValue = "100") int limit) {
    RequestContext context = contexts.context();
    TrailFilter.Condition condition = condition(filter, context);
    List<String> accounts = accounts(context);
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

  /**
   * How far an export is.
   *
   * @param state {@code running}, {@code done}, {@code cancelled} or {@code failed}
   */
  record ExportState(String id, String state, long done, long of) {}

  @PostMapping("/exports")
  ExportState begin(@Valid @RequestBody ExportOrder order) {
    if (!order.format().equals("csv") && !order.format().equals("xlsx")) {
      throw Problem.badRequest("Unknown format", "Write csv or xlsx.");
    }
    RequestContext context = contexts.context();
    TrailFilter filter =
        order.filter() == null
            ? new TrailFilter(null, null, null, null, null, null, null, null, null)
            : order.filter();
    String owner = context.readPolicy().viewer().value();
    String id =
        exports.begin(
            owner,
            order.format().equals("xlsx"),
            condition(filter, context),
            new ToldLines(context, accounts(context)),
            auditContext.by(
                AuditEvent.Act.EXPORTED,
                accounts(context),
                "The export of the trail as " + order.format() + " failed"));
    trail.writeAlone(
        auditContext.by(
            AuditEvent.Act.EXPORTED, accounts(context), "Exported the trail as " + order.format()));
    return state(id, exports.of(id, owner));
  }

  private static ExportState state(String id, TrailExports.Export export) {
    return new ExportState(
        id,
        export.file != null
            ? "done"
            : export.failed ? "failed" : export.cancelled ? "cancelled" : "running",
        export.done.get(),
        export.of);
  }

  @GetMapping("/exports/{id}")
  ExportState exported(@PathVariable String id) {
    return state(id, exports.of(id, contexts.context().readPolicy().viewer().value()));
  }

  @DeleteMapping("/exports/{id}")
  ExportState cancel(@PathVariable String id) {
    TrailExports.Export export = exports.of(id, contexts.context().readPolicy().viewer().value());
    export.cancelled = true;
    return state(id, export);
  }

  @GetMapping("/exports/{id}/file")
  ResponseEntity<Resource> file(@PathVariable String id) {
    TrailExports.Export export = exports.of(id, contexts.context().readPolicy().viewer().value());
    Path file = export.file;
    if (file == null) {
      throw Problem.conflict("The export is still running", "Wait until it is, then fetch it.");
    }
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"mandala-trail." + (export.sheet ? "xlsx" : "csv") + "\"")
        .header(
            HttpHeaders.CONTENT_TYPE,
            export.sheet
                ? "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
                : "text/csv; charset=utf-8")
        .body(new FileSystemResource(file));
  }
}
