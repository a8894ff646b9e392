package mandala.server.excess;

import jakarta.validation.Valid;
import jakarta.validation.constraints.DecimalMax;
import jakarta.validation.constraints.DecimalMin;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import mandala.core.model.Principal;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.draft.DraftProposals;
import mandala.server.job.Job;
import mandala.server.job.JobAnswers;
import mandala.server.job.JobOrders;
import mandala.server.platform.Problem;
import mandala.server.question.QuestionAudit;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Trims somebody's access to what they need (section 12): proposals, and a draft of one. */
@RestController
@RequestMapping("/api/excess/trims")
class TrimController {

  private final RequestContexts contexts;
  private final ExcessStudies studies;
  private final JobOrders orders;
  private final JobAnswers answers;
  private final DraftProposals proposals;
  private final QuestionAudit audit;

  TrimController(
      RequestContexts contexts,
      ExcessStudies studies,
      JobOrders orders,
      JobAnswers answers,
      DraftProposals proposals,
      QuestionAudit audit) {
    this.contexts = contexts;
    this.studies = studies;
    this.orders = orders;
    this.answers = answers;
    this.proposals = proposals;
    this.audit = audit;
  }

  /**
   * Whose access is to be trimmed.
   *
   * @param days of the window; those of the policy where absent
   * @param others whether what they get together with others may change too; not where absent
   */
  record TrimOrder(
      @NotBlank @Size(max = 200) String principal,
      @Nullable @Min(1) @Max(3660) Integer days,
      @Nullable Boolean others) {}

  /** Begins to look for proposals. */
  @PostMapping
  Job begin(@Valid @RequestBody TrimOrder order) {
    RequestContext context = contexts.context();
    AskablePrincipal whom = AskablePrincipal.of(context, order.principal(), null);
    TrimJob.requireWhole(whom);
    studies.window(order.days(), context.readPolicy().now());
    Principal who = whom.principal();
    audit.about(context, who, "What of their access can be trimmed");
    return orders.begin(
        TrimJob.NAME,
        "Trim the access of " + who.about().nameOr(who.key()),
        new TrimJob.Order(who.key().value(), order.days(), Boolean.TRUE.equals(order.others())));
  }

  /** The proposals, once they are found. */
  @GetMapping("/{job}")
  TrimAnswer proposals(@PathVariable String job) {
    return answers.of(job, TrimJob.NAME, TrimAnswer.class).told();
  }

  /** Which proposal is taken, by its tightness. */
  record TrimChoice(@NotNull @DecimalMin("0") @DecimalMax("1") Double tight) {}

  /** A draft that was begun. */
  record TrimDraft(String draft) {}

  /** Begins a draft of a proposal, which becomes the caller's active one. */
  @PostMapping("/{job}/draft")
  TrimDraft draft(@PathVariable String job, @Valid @RequestBody TrimChoice choice) {
    RequestContext context = contexts.context();
    TrimAnswer answer = answers.of(job, TrimJob.NAME, TrimAnswer.class);
    if (answer.revision() != context.state().revision()) {
      throw Problem.conflict(
          "The model has changed since",
          "The proposal fits revision "
              + answer.revision()
              + "; the newest is "
              + context.state().revision()
              + ". Start the trim again.");
    }
    TrimAnswer.TrimPoint point =
        answer.points().stream()
            .filter(it -> it.tight() == choice.tight() && !it.steps().isEmpty())
            .findFirst()
            .orElseThrow(
                () -> Problem.notFound("There is no such proposal with changes. Choose another."));
    AskablePrincipal whom = AskablePrincipal.of(context, answer.principal(), null);
    return new TrimDraft(
        proposals.begin(
            "Trim " + whom.principal().about().nameOr(whom.principal().key()),
            TrimJob.changes(point),
            context));
  }
}
