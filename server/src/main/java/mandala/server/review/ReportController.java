package mandala.server.review;

import io.swagger.v3.oas.annotations.media.Schema;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.io.IOException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import mandala.server.session.SignIn;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What review rounds came to: reports, signatures, and what was decided about somebody. */
@RestController
@RequestMapping("/api/reviews")
class ReportController {

  private final RequestContexts contexts;
  private final ReportDesk reports;
  private final SignIn signIn;

  ReportController(RequestContexts contexts, ReportDesk reports, SignIn signIn) {
    this.contexts = contexts;
    this.reports = reports;
    this.signIn = signIn;
  }

  /**
   * A round's report.
   *
   * @param hashes SHA-256 of its files, by form; none before the round closes
   * @param readable whether the viewer may read everybody whom it names
   * @param signable whether the viewer can sign it
   */
  record ReportState(
      long round,
      String title,
      @Schema(allowableValues = {"planned", "making", "open", "closed", "cancelled"}) String state,
      Map<String, String> hashes,
      boolean readable,
      boolean signable,
      @Nullable String signedByName,
      @Nullable Instant signedAt) {}

  /** What is to be said of a round's report. */
  @GetMapping("/{round}/report")
  ReportState report(@PathVariable long round) {
    return reports.state(round, contexts.context());
  }

  /** The report of a round that closed, as it was written. */
  @GetMapping("/{round}/report/json")
  RoundReport read(@PathVariable long round) {
    return ReportFiles.read(
        reports.file(round, ReportFiles.Form.JSON, contexts.context()).content().getByteArray());
  }

  /** The same as a file: {@code json}, {@code xlsx} or {@code pdf}. */
  @GetMapping("/{round}/report/file")
  void file(
      @PathVariable long round,
      @RequestParam(defaultValue = "json") String format,
      HttpServletResponse response)
      throws IOException {
    ReportFiles.Form form = form(format);
    Reports.Kept kept = reports.file(round, form, contexts.context());
    response.setContentType(form.type());
    response.setHeader(
        "Content-Disposition", "attachment; filename=\"review-" + round + "." + form.word() + "\"");
    response.getOutputStream().write(kept.content().getByteArray());
  }

  private static ReportFiles.Form form(String word) {
    for (ReportFiles.Form it : ReportFiles.Form.values()) {
      if (it.word().equals(word)) {
        return it;
      }
    }
    throw Problem.badRequest("There is no format '" + word + "'", "Write json, xlsx or pdf.");
  }

  /**
   * The proof that it is oneself who signs.
   *
   * @param proof the current code of the second factor
   */
  record ReportSigning(@NotBlank @Size(max = 500) String proof) {}

  /** Signs the result of a round that closed. */
  @PostMapping("/{round}/signature")
  ReportState sign(@PathVariable long round, @Valid @RequestBody ReportSigning order) {
    RequestContext context = contexts.context();
    Session viewer = context.readPolicy().session();
    reports.state(round, context); // nobody is asked for a code of what they may not read
    return reports.sign(round, signIn.prove(viewer, order.proof()), context);
  }

  /**
   * Whose reviews to find.
   *
   * @param person key
   * @param since day; rounds that ended on it or later
   */
  record ReviewedQuery(@NotBlank @Size(max = 200) String person, @NotNull LocalDate since) {}

  /** What was decided, about somebody or in a revision. */
  record ReviewsOf(String about, List<ReviewedItem> rows) {}

  /**
   * A decision.
   *
   * @param runs whether the viewer may run its round
   * @param byName who decided; absent where nobody did, or the round's rule
   * @param reviewerName who was to decide
   * @param outcome what became of it, in words
   * @param revision in which it took effect
   */
  record ReviewedItem(
      long round,
      String title,
      @Schema(allowableValues = {"open", "closed", "cancelled"}) String roundState,
      boolean signed,
      boolean runs,
      int item,
      String what,
      @Nullable @Schema(allowableValues = {"keep", "reduce", "remove"}) String verdict,
      @Nullable String reason,
      @Nullable String byName,
      @Nullable String reviewerName,
      @Nullable Instant at,
      @Schema(allowableValues = {"open", "decided", "done", "gone"}) String state,
      String outcome,
      @Nullable Long revision,
      @Nullable String remark) {}

  /** Whether and by whom somebody's access was reviewed, and what was done. */
  @GetMapping("/reviewed")
  ReviewsOf reviewed(@Valid @ParameterObject ReviewedQuery query) {
    return reports.about(
        query.person(), query.since().atStartOfDay(ZoneOffset.UTC).toInstant(), contexts.context());
  }

  /** The decisions that a revision carried out. */
  @GetMapping("/revisions/{revision}")
  ReviewsOf ofRevision(@PathVariable long revision) {
    return reports.ofRevision(revision, contexts.context());
  }
}
