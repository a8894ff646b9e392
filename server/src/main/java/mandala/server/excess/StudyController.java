package mandala.server.excess;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import mandala.core.excess.UseWindow;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.job.Job;
import mandala.server.job.JobAnswers;
import mandala.server.job.JobOrders;
import mandala.server.question.QuestionAudit;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What several people use of their access (section 12). */
@RestController
@RequestMapping("/api/excess/studies")
class StudyController {

  private final RequestContexts contexts;
  private final ExcessStudies studies;
  private final JobOrders orders;
  private final JobAnswers answers;
  private final QuestionAudit audit;

  StudyController(
      RequestContexts contexts,
      ExcessStudies studies,
      JobOrders orders,
      JobAnswers answers,
      QuestionAudit audit) {
    this.contexts = contexts;
    this.studies = studies;
    this.orders = orders;
    this.answers = answers;
    this.audit = audit;
  }

  /**
   * About whom, within what window, in which model.
   *
   * @param of {@code person:K}, {@code service:K}, {@code group:K} for its members, {@code role:K}
   *     for its holders, {@code account:K} for who is at home or a guest there, or {@code
   *     everybody}
   * @param days of the window; those of the policy where absent
   * @param at the instant asked about; now where absent
   * @param draft id of a draft to lay over the model in force, or {@code open} for one's own
   * @param revision number of a past revision
   */
  record StudyOrder(
      @NotEmpty @Size(max = SelectedPeople.MOST) List<@NotBlank @Size(max = 200) String> of,
      @Nullable @Min(1) @Max(3660) Integer days,
      @Nullable Instant at,
      @Nullable String draft,
      @Nullable Long revision) {}

  /** Begins to work out what they use. */
  @PostMapping
  Job begin(@Valid @RequestBody StudyOrder order) {
    RequestContext context = contexts.context(order.draft(), order.revision()).withoutHiddenDraft();
    UseWindow window = studies.window(order.days(), context.instantOrNow(order.at()));
    SelectedPeople whom = SelectedPeople.of(order.of(), window.at(), context);
    audit.about(
        context,
        whom.people(),
        whom.people().size() == 1
            ? "What they use of their access"
            : "What " + whom.people().size() + " people use of their access");
    return orders.begin(
        StudyJob.NAME,
        "Use of access: " + whom.name(),
        new StudyJob.Order(order.of(), order.days(), order.at(), order.draft(), order.revision()));
  }

  /** What they use, once it is worked out. */
  @GetMapping("/{job}")
  StudyAnswer answer(@PathVariable String job) {
    return answers.of(job, StudyJob.NAME, StudyAnswer.class);
  }
}
