package mandala.server.reconcile;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.job.Job;
import mandala.server.job.JobOrders;
import mandala.server.platform.Costly;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import mandala.server.session.CurrentPrincipal;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Connected systems: what they say their people hold, against what the model allows. */
@RestController
@RequestMapping("/api/systems")
class SystemController {

  /** The largest table of what a system holds, in bytes. */
  static final int LARGEST = 32 << 20;

  /** The largest table of terms, and the largest sample, in bytes. */
  static final int LARGEST_TERMS = 4 << 20;

  private final RequestContexts contexts;
  private final SystemDesk desk;
  private final TermsDesk terms;
  private final DiscrepancyDesk discrepancies;
  private final DiscrepancyDecisions decisions;
  private final JobOrders jobs;
  private final CurrentPrincipal viewer;

  SystemController(
      RequestContexts contexts,
      SystemDesk desk,
      TermsDesk terms,
      DiscrepancyDesk discrepancies,
      DiscrepancyDecisions decisions,
      JobOrders jobs,
      CurrentPrincipal viewer) {
    this.contexts = contexts;
    this.desk = desk;
    this.terms = terms;
    this.discrepancies = discrepancies;
    this.decisions = decisions;
    this.jobs = jobs;
    this.viewer = viewer;
  }

  /**
   * Connected systems.
   *
   * @param accounts keys of the accounts for which the viewer may add systems
   * @param systems by name
   */
  record SystemList(List<String> accounts, List<SystemView> systems) {}

  /**
   * A connected system.
   *
   * @param identity column of its tables with who
   * @param entitlement column with what
   * @param place column with where, absent where it has no places
   * @param terms version of its terms that counts, absent before the first
   * @param versions of its terms, the newest first
   * @param comparedAt when it was last compared
   * @param mine whether the viewer may change it, and bring tables in
   */
  record SystemView(
      String key,
      String name,
      String account,
      String accountName,
      String identity,
      String entitlement,
      @Nullable String place,
      @Nullable Integer terms,
      List<TermsView> versions,
      @Nullable Instant comparedAt,
      boolean mine) {}

  /** A version of terms; one that was not tried cannot be put in force. */
  record TermsView(int version, Instant madeAt, String madeBy, @Nullable Instant triedAt) {}

  /** The systems that the viewer may see. */
  @GetMapping
  SystemList systems() {
    return desk.list(contexts.context());
  }

  /**
   * What a system is to be.
   *
   * @param account key of the account to which it belongs
   * @param place absent or empty where the system has no places
   */
  record SystemOrder(
      @NotBlank @Size(max = 80) String name,
      @NotBlank @Size(max = 200) String account,
      @NotBlank @Size(max = 200) String identity,
      @NotBlank @Size(max = 200) String entitlement,
      @Nullable @Size(max = 200) String place) {}

  /** Adds a system, or changes one. */
  @PutMapping("/{system}")
  SystemList keep(
      @PathVariable @Size(max = 80) @Pattern(regexp = "[a-z0-9][a-z0-9.-]*") String system,
      @Valid @RequestBody SystemOrder order) {
    return desk.keep(system, order, contexts.context());
  }

  /** Removes a system, with its terms and comparisons. */
  @DeleteMapping("/{system}")
  SystemList remove(@PathVariable String system) {
    return desk.remove(system, contexts.context());
  }

  // ---- terms ------------------------------------------------------------------------------------

  /** Adds a version of what a system's terms mean, as a table ({@code text/csv}). */
  @PostMapping("/{system}/terms")
  SystemView addTerms(@PathVariable String system, HttpServletRequest request) throws IOException {
    RequestContext context = contexts.context();
    desk.requireManaged(system, context);
    return terms.addTerms(system, body(request, LARGEST_TERMS), context);
  }

  /** A version of a system's terms, as it was sent. */
  @GetMapping(value = "/{system}/terms/{version}", produces = "text/csv;charset=UTF-8")
  String terms(@PathVariable String system, @PathVariable int version) {
    return terms.terms(system, version, contexts.context());
  }

  /**
   * What terms make of a sample.
   *
   * @param lines how many it has
   * @param translated how many of them are of somebody, and wholly understood
   * @param untranslated how many lines each entitlement and place has that means nothing
   * @param strangers identities that are nobody's whom the viewer may read
   * @param first what the first lines mean
   */
  record TermsTrial(
      int lines,
      int translated,
      Map<String, Integer> untranslated,
      List<String> strangers,
      List<TriedLine> first) {}

  /**
   * What a line means.
   *
   * @param whoName absent where nobody has the identity
   * @param ourPlace absent where the place means nothing
   * @param below whether all below it belongs to it
   */
  record TriedLine(
      String identity,
      @Nullable String whoName,
      String entitlement,
      List<String> permissions,
      String place,
      @Nullable String ourPlace,
      boolean below) {}

  /** Tries a version of the terms on the first lines of what a system holds ({@code text/csv}). */
  @PostMapping("/{system}/terms/{version}/trial")
  TermsTrial tryTerms(
      @PathVariable String system, @PathVariable int version, HttpServletRequest request)
      throws IOException {
    RequestContext context = contexts.context();
    desk.requireManaged(system, context);
    return terms.tryTerms(system, version, body(request, LARGEST_TERMS), context);
  }

  /** Puts a version that was tried in force. */
  @PostMapping("/{system}/terms/{version}/force")
  SystemView useTerms(@PathVariable String system, @PathVariable int version) {
    return terms.useTerms(system, version, contexts.context());
  }

  // ---- comparisons ------------------------------------------------------------------------------

  /**
   * Begins to compare: a table of what the system holds ({@code text/csv}) with the model, or the
   * newest table again where none is sent.
   */
  @PostMapping("/{system}/comparisons")
  Job compare(@PathVariable String system, HttpServletRequest request) throws IOException {
    RequestContext context = contexts.context();
    ConnectedSystem of = desk.requireManaged(system, context);
    TermsDesk.requireInForce(of);
    byte[] table = body(request, LARGEST);
    boolean sent = table.length > 0;
    if (sent) {
      TermsDesk.read(table, of);
    }
    return jobs.begin(
        ComparisonJob.NAME,
        "Compare “" + of.name() + "”",
        new ComparisonJob.Order(system, sent, AuditContext.address()),
        viewer.session().mfa(),
        table);
  }

  private static byte[] body(HttpServletRequest request, int largest) throws IOException {
    byte[] bytes = request.getInputStream().readNBytes(largest + 1);
    if (bytes.length > largest) {
      throw Problem.tooLarge(
          "Up to "
              + (largest >> 20)
              + " MiB are read here. Nothing was changed. Leave out columns that are not needed.");
    }
    return bytes;
  }

  // ---- discrepancies ----------------------------------------------------------------------------

  /**
   * Which discrepancies; what is absent does not matter.
   *
   * @param state as {@code DiscrepancyRow.state}; new ones and those in a draft where absent,
   *     {@code any} for all
   * @param text in its sentence
   */
  record DiscrepancyParams(
      @Nullable @Size(max = 20) String kind,
      @Nullable @Size(max = 20) String state,
      @Nullable @Size(max = 200) String text,
      @Nullable @Min(0) @Max(10_000_000) Integer skip,
      @Nullable @Min(1) @Max(500) Integer most) {}

  /**
   * Where a system differs from the model.
   *
   * @param discrepancies a page of them
   * @param total how many pass the filters
   * @param kinds how many there are of each kind, its own filter aside
   * @param comparisons the newest first
   * @param untranslated lines by what the terms don't list, at the last comparison
   * @param agreeing how many people hold a permission where the model says; absent for who may not
   *     read everybody
   * @param outdated whether the model or the terms in force have changed since
   * @param elsewhere whether there are more of which the viewer may not know
   */
  record DiscrepancyList(
      SystemView system,
      List<DiscrepancyRow> discrepancies,
      int total,
      Map<String, Integer> kinds,
      List<ComparisonView> comparisons,
      Map<String, Integer> untranslated,
      @Nullable Integer agreeing,
      boolean outdated,
      boolean elsewhere) {}

  /**
   * A comparison.
   *
   * @param sent whether a table came in; else the newest was compared again
   * @param terms version of the terms
   * @param kinds how many discrepancies of each kind there were
   * @param begun how many were not there before
   * @param gone how many were gone
   */
  record ComparisonView(
      int number,
      Instant at,
      String by,
      boolean sent,
      int terms,
      int lines,
      Map<String, Integer> kinds,
      int begun,
      int gone) {}

  /**
   * A discrepancy.
   *
   * @param who key of whoever it is about, absent where nobody
   * @param place key of the first place
   * @param identity of the system, where it is about that
   * @param held what the system holds of it, in its terms
   * @param since when it was first found
   * @param goneAt when a comparison first lacked it
   * @param returned {@code ended} or {@code worse} where it was accepted before
   * @param mine whether the viewer may decide about it
   */
  record DiscrepancyRow(
      String id,
      @Schema(allowableValues = {"missing", "extra", "different", "unknown", "orphaned"})
          String kind,
      String said,
      @Nullable String who,
      @Nullable String whoName,
      @Nullable String permission,
      @Nullable String place,
      @Nullable String identity,
      List<String> held,
      @Nullable Instant since,
      @Nullable Instant goneAt,
      @Schema(allowableValues = {"new", "accepted", "in-draft", "settled"}) String state,
      @Nullable String returned,
      @Nullable Instant until,
      @Nullable String reason,
      boolean mine) {}

  /** Where a system differs from the model, as far as the viewer may know. */
  @GetMapping("/{system}/discrepancies")
  DiscrepancyList discrepancies(
      @PathVariable String system, @Valid @ParameterObject DiscrepancyParams params) {
    return discrepancies.list(system, params, contexts.context());
  }

  /** All discrepancies that pass the filters, as a file. */
  @Costly
  @GetMapping("/{system}/discrepancies/file")
  void file(
      @PathVariable String system,
      @Valid @ParameterObject DiscrepancyParams params,
      @RequestParam(defaultValue = "csv") String format,
      HttpServletResponse response)
      throws IOException {
    discrepancies.table(system, params, contexts.context()).send(format, response);
  }

  /** Which discrepancies may stay until when, and why. */
  record DiscrepancyAcceptance(
      @NotEmpty @Size(max = 500) List<@NotBlank @Size(max = 1000) String> ids,
      @NotNull Instant until,
      @NotBlank @Size(max = 1000) String reason) {}

  /** Which discrepancies. */
  record DiscrepancySelection(
      @NotEmpty @Size(max = 500) List<@NotBlank @Size(max = 1000) String> ids) {}

  /** How many discrepancies were changed. */
  record DiscrepanciesChanged(int changed) {}

  /** Accepts discrepancies until a time; one that grows comes back. */
  @PostMapping("/{system}/accept")
  DiscrepanciesChanged accept(
      @PathVariable String system, @Valid @RequestBody DiscrepancyAcceptance order) {
    return new DiscrepanciesChanged(decisions.accept(system, order, contexts.context()));
  }

  /** Ends the acceptance of discrepancies. */
  @PostMapping("/{system}/reopen")
  DiscrepanciesChanged reopen(
      @PathVariable String system, @Valid @RequestBody DiscrepancySelection selection) {
    return new DiscrepanciesChanged(decisions.reopen(system, selection.ids(), contexts.context()));
  }

  /**
   * A draft that was begun.
   *
   * @param changes how many changes it has
   * @param left what no change of the model settles, in sentences
   */
  record SystemDraft(String draft, int changes, List<String> left) {}

  /** Begins a draft after which the model says what the system holds. */
  @PostMapping("/{system}/draft")
  SystemDraft draft(
      @PathVariable String system, @Valid @RequestBody DiscrepancySelection selection) {
    return decisions.draft(system, selection.ids(), contexts.context());
  }
}
