package mandala.server.use;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import mandala.core.model.key.AccountKey;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.CurrentPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Use records: who reports them, and how they come in. */
@RestController
@RequestMapping("/api/use")
class UseController {

  private final UseImport imports;
  private final UseSources sources;
  private final UseSourceDesk desk;
  private final RequestContexts contexts;
  private final CurrentPrincipal viewer;
  private final Trail trail;
  private final AuditContext auditContext;

  UseController(
      UseImport imports,
      UseSources sources,
      UseSourceDesk desk,
      RequestContexts contexts,
      CurrentPrincipal viewer,
      Trail trail,
      AuditContext auditContext) {
    this.imports = imports;
    this.sources = sources;
    this.desk = desk;
    this.contexts = contexts;
    this.viewer = viewer;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /**
   * Takes a batch of records in: JSON Lines ({@code application/x-ndjson}), or a table ({@code
   * text/csv}) with the columns of the source. All of it or nothing; a batch that is sent again
   * under its key adds nothing.
   *
   * @param source key of the source
   * @param batch names the batch among those of the source
   */
  @PostMapping
  UseImport.Taken take(
      @RequestParam @NotBlank @Size(max = 200) String source,
      @RequestParam @NotBlank @Size(max = 200) String batch,
      HttpServletRequest request)
      throws IOException {
    RequestContext context = contexts.context();
    UseSource from = source(source, context);
    String type = request.getContentType() == null ? "" : request.getContentType();
    boolean table = type.toLowerCase(Locale.ROOT).startsWith("text/csv");
    UseImport.Taken taken = imports.take(from, batch, request.getInputStream(), table, context);
    if (!taken.again()) {
      trail.writeAlone(
          auditContext.by(
              AuditEvent.Act.IMPORTED,
              List.of(from.account().value()),
              "Took in "
                  + taken.records()
                  + " use records of “"
                  + from.name()
                  + "”, batch “"
                  + batch
                  + "”"));
    }
    return taken;
  }

  /** Of a token, one of its accounts; of a person, one whose settings they manage. */
  private UseSource source(String key, RequestContext context) {
    Set<AccountKey> within = viewer.within();
    return within == null
        ? desk.require(key, context)
        : sources
            .find(key)
            .filter(it -> within.contains(it.account()))
            .orElseThrow(() ->
                Problem.notFound(
                    "The token's accounts have no source '"
                        + key
                        + "'. Check the spelling, or use a token of the source's account."));
  }

  /** The sources, and how long what they report is kept. */
  @GetMapping("/sources")
  UseSourceDesk.SourceList list() {
    return desk.list(contexts.context());
  }

  /** Adds a source, or changes one. */
  @PutMapping("/sources/{key}")
  UseSourceDesk.SourceList keep(
      @PathVariable @Size(max = 80) String key,
      @Valid @RequestBody UseSourceDesk.SourceOrder order) {
    return desk.keep(key, order, contexts.context());
  }

  /** Removes a source; what it reported stays. */
  @DeleteMapping("/sources/{key}")
  UseSourceDesk.SourceList remove(@PathVariable String key) {
    return desk.remove(key, contexts.context());
  }

  /** The names in records of a source that nobody knows. */
  @GetMapping("/sources/{key}/strangers")
  UseSourceDesk.StrangerList strangers(@PathVariable String key) {
    return desk.strangers(key, contexts.context());
  }

  /**
   * How long use is kept, in days.
   *
   * @param rolledAfter after how many days a month that is over is kept as a mask of its days
   * @param strangersKept for records that name what the model lacks
   * @param window days of the window where a question names none
   */
  record KeepOrder(
      @Min(31) @Max(3660) int rolledAfter,
      @Min(31) @Max(3660) int kept,
      @Min(1) @Max(3660) int strangersKept,
      @Min(1) @Max(3660) int window) {}

  /** Sets how long use is kept. */
  @PutMapping("/policy")
  UseSourceDesk.SourceList set(@Valid @RequestBody KeepOrder order) {
    return desk.set(
        new UsePolicy.Rule(
            order.rolledAfter(), order.kept(), order.strangersKept(), order.window()),
        contexts.context());
  }
}
