package mandala.server.finding;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Instant;
import java.util.List;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** Findings of detectors and broken rules in one list, with what people said of them. */
@RestController
@RequestMapping("/api/findings")
class FindingController {

  private final RequestContexts contexts;
  private final FindingService findings;
  private final FindingDecisions decisions;

  FindingController(RequestContexts contexts, FindingService findings, FindingDecisions decisions) {
    this.contexts = contexts;
    this.findings = findings;
    this.decisions = decisions;
  }

  /**
   * Which findings; what is absent does not matter.
   *
   * @param harm as {@code FindingRow.harm}
   * @param detector as {@code FindingRow.kind}
   * @param risk the lowest
   * @param account key of the account to which it belongs, or of one above that
   * @param owner key of who takes care of it; {@code none} where nobody does
   * @param state as {@code FindingRow.state}; what is not accepted or resolved where absent, {@code
   *     any} for all
   * @param about a kind, a colon and a key: {@code principals:odile.farrow}
   * @param text in the name or key of what it is about
   * @param order {@code worst}, {@code newest} or {@code largest} first
   */
  record FindingParams(
      @Nullable @Size(max = 40) String harm,
      @Nullable @Size(max = 60) String detector,
      @Nullable @Size(max = 20) String risk,
      @Nullable @Size(max = 200) String account,
      @Nullable @Size(max = 200) String owner,
      @Nullable @Size(max = 20) String state,
      @Nullable @Size(max = 300) String about,
      @Nullable @Size(max = 200) String text,
      @Nullable @Size(max = 20) String order,
      @Nullable @Min(0) @Max(10_000_000) Integer skip,
      @Nullable @Min(1) @Max(500) Integer most) {}

  /**
   * Findings.
   *
   * @param lookedAt when detectors last looked; absent before the first look
   * @param cut titles of detectors that did not look at everything
   * @param findings a page of them
   * @param total how many pass the filters
   * @param kinds how many there are of each kind, its own filter and that of harm aside
   * @param owners how many each owner has whom the viewer may read, the filter of owners aside
   * @param elsewhere whether there are more of which the viewer may not know
   */
  record FindingList(
      @Nullable Instant lookedAt,
      List<String> cut,
      List<FindingRow> findings,
      int total,
      List<KindCount> kinds,
      List<OwnerCount> owners,
      boolean elsewhere) {}

  /** How many findings somebody takes care of. */
  record OwnerCount(String key, String name, int many) {}

  /** How many findings of one kind there are. */
  record KindCount(String kind, String title, String harm, int many) {}

  /**
   * A finding.
   *
   * @param kind key of the detector, or {@code exclusion}, {@code expectation}, {@code
   *     prerequisite} or {@code holders} of a rule
   * @param harm what may come of it: {@code misuse}, {@code excess}, {@code leftover}, {@code
   *     no-owner}, {@code no-effect} or {@code clutter}
   * @param weight how much of it there is: exposure, else a count
   * @param about key of what it is about, absent where the viewer may not read it
   * @param aboutKind of what it is about, as a document names its array
   * @param state whether it is new, accepted, in a draft or no longer found
   * @param returned {@code ended} or {@code worse} where it was accepted before
   * @param owner key of who takes care of it, absent where the viewer may not read them
   * @param until when the acceptance ends
   * @param since when it was first seen
   * @param revision that was in force then
   * @param mine whether the viewer may accept it and choose its owner
   */
  record FindingRow(
      String id,
      String kind,
      String title,
      String harm,
      String risk,
      long weight,
      String said,
      String aboutKind,
      @Nullable String about,
      String aboutName,
      @Nullable String account,
      @Nullable String accountName,
      @Schema(allowableValues = {"new", "accepted", "in-draft", "resolved"}) String state,
      @Nullable String returned,
      @Nullable String owner,
      @Nullable String ownerName,
      @Nullable Instant until,
      @Nullable String reason,
      @Nullable Instant since,
      @Nullable Long revision,
      @Nullable Instant resolvedAt,
      boolean mine) {}

  /** The findings that the viewer may know of. */
  @GetMapping
  FindingList list(@Valid @ParameterObject FindingParams params) {
    return findings.list(params, contexts.context());
  }

  /** All findings that pass the filters, as a file. */
  @Costly
  @GetMapping("/file")
  void file(
      @Valid @ParameterObject FindingParams params,
      @RequestParam(defaultValue = "csv") String format,
      HttpServletResponse response)
      throws IOException {
    findings.table(params, contexts.context()).send(format, response);
  }

  /**
   * What settles a finding.
   *
   * @param said what it changes, in sentences
   * @param edits for the draft
   */
  record RemedyView(String act, String label, List<String> said, List<JsonNode> edits) {}

  /**
   * One finding.
   *
   * @param remedies that are ready, the best first: those that the viewer may read all of
   */
  record FindingDetail(FindingRow finding, List<RemedyView> remedies) {}

  /** One finding with what settles it. */
  @GetMapping("/one")
  FindingDetail one(@RequestParam @NotBlank @Size(max = 1000) String id) {
    return findings.one(id, contexts.context());
  }

  /** Which findings may stay until when, and why. */
  record AcceptanceOrder(
      @NotEmpty @Size(max = 500) List<@NotBlank @Size(max = 1000) String> ids,
      @NotNull Instant until,
      @NotBlank @Size(max = 1000) String reason) {}

  /** How many findings were changed. */
  record FindingsChanged(int changed) {}

  /** Accepts findings until a time; one that worsens comes back. */
  @PostMapping("/accept")
  FindingsChanged accept(@Valid @RequestBody AcceptanceOrder order) {
    RequestContext context = contexts.context();
    if (!order.until().isAfter(context.readPolicy().now())) {
      throw Problem.badRequest(
          "The acceptance would be over already", "Choose a date in the future.");
    }
    return new FindingsChanged(decisions.accept(order, context));
  }

  /** Which findings are to be looked at again. */
  record ReopenOrder(@NotEmpty @Size(max = 500) List<@NotBlank @Size(max = 1000) String> ids) {}

  /** Ends the acceptance of findings. */
  @PostMapping("/reopen")
  FindingsChanged reopen(@Valid @RequestBody ReopenOrder order) {
    return new FindingsChanged(decisions.reopen(order.ids(), contexts.context()));
  }

  /** Who is to take care of findings; nobody where {@code owner} is absent. */
  record OwnershipOrder(
      @NotEmpty @Size(max = 500) List<@NotBlank @Size(max = 1000) String> ids,
      @Nullable @Size(max = 200) String owner) {}

  /** Chooses who takes care of findings. */
  @PostMapping("/owner")
  FindingsChanged own(@Valid @RequestBody OwnershipOrder order) {
    return new FindingsChanged(decisions.own(order, contexts.context()));
  }

  /** Into which draft a remedy was put. */
  record DraftedOrder(
      @NotBlank @Size(max = 1000) String id, @NotBlank @Size(max = 100) String draft) {}

  /** Remembers that a remedy of a finding is in one of the caller's drafts. */
  @PostMapping("/drafted")
  FindingsChanged drafted(@Valid @RequestBody DraftedOrder order) {
    return new FindingsChanged(decisions.drafted(order.id(), order.draft(), contexts.context()));
  }
}
