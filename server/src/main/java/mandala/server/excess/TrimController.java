package mandala.server.excess;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.excess.UseWindow;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Window;
import mandala.core.model.key.AssignmentKey;
import mandala.core.shrink.ShrinkOrder;
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

/** Trims access to what is needed (section 12): proposals, and a draft of some of them. */
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
   * Whose access is to be trimmed, and how.
   *
   * @param of {@code person:K}, {@code service:K}, {@code group:K} for its members, {@code role:K}
   *     for its holders, {@code account:K} for who is at home or a guest there, or {@code
   *     everybody}
   * @param days of the window; those of the policy where absent
   * @param others whether what they get together with others may change too; not where absent
   * @param split whether a group's assignment may be replaced by some to its members; it may where
   *     absent
   * @param clauses how many clauses a narrowed scope has at most; 24 where absent
   * @param untouched what stays as it is: a kind, a colon and a key
   * @param rareDays on how many days at most something is used that is proposed to be just-in-time;
   *     5 where absent
   */
  record TrimOrder(
      @NotEmpty @Size(max = SelectedPeople.MOST) List<@NotBlank @Size(max = 200) String> of,
      @Nullable @Min(1) @Max(3660) Integer days,
      @Nullable Boolean others,
      @Nullable Boolean split,
      @Nullable @Min(1) @Max(ShrinkOrder.CLAUSES) Integer clauses,
      @Nullable @Size(max = 500) List<@NotBlank @Size(max = 300) String> untouched,
      @Nullable @Min(1) @Max(31) Integer rareDays) {}

  /** Begins to look for proposals. */
  @PostMapping
  Job begin(@Valid @RequestBody TrimOrder order) {
    RequestContext context = contexts.context();
    UseWindow window = studies.window(order.days(), context.readPolicy().now());
    SelectedPeople whom = SelectedPeople.of(order.of(), window.at(), context);
    audit.about(context, whom.people(), "What of their access can be trimmed");
    return orders.begin(
        TrimJob.NAME,
        "Trim the access of " + whom.name(),
        new TrimJob.Order(
            order.of(),
            order.days(),
            Boolean.TRUE.equals(order.others()),
            !Boolean.FALSE.equals(order.split()),
            order.clauses(),
            order.untouched() == null ? List.of() : order.untouched(),
            order.rareDays()));
  }

  /** The proposals, once they are found. */
  @GetMapping("/{job}")
  TrimAnswer proposals(@PathVariable String job) {
    return answers.of(job, TrimJob.NAME, TrimAnswer.class).told();
  }

  /**
   * What of the proposals is taken.
   *
   * @param steps how many of them, a number at which one may stop; 0 for none
   * @param justInTime keys of rarely used assignments that are made just-in-time
   * @param ending keys of those that are given an end
   * @param until when these end
   */
  record TrimChoice(
      @NotNull @Min(0) Integer steps,
      @Nullable @Size(max = 500) List<@NotBlank @Size(max = 200) String> justInTime,
      @Nullable @Size(max = 500) List<@NotBlank @Size(max = 200) String> ending,
      @Nullable Instant until) {}

  /** A draft that was begun. */
  record TrimDraft(String draft) {}

  /** Begins a draft of what is taken, which becomes the caller's active one. */
  @PostMapping("/{job}/draft")
  TrimDraft draft(@PathVariable String job, @Valid @RequestBody TrimChoice choice) {
    RequestContext context = contexts.context();
    TrimAnswer answer = answers.of(job, TrimJob.NAME, TrimAnswer.class);
    DraftProposals.requireNewest(answer.revision(), context);
    if (choice.steps() > 0
        && answer.points().stream().noneMatch(it -> it.steps() == choice.steps())) {
      throw Problem.notFound(
          "You can't stop after "
              + choice.steps()
              + " changes. Choose one of the points of the proposals.");
    }
    List<Change> changes = new ArrayList<>(TrimJob.changes(answer, choice.steps()));
    changes.addAll(rare(choice, answer, changes, context));
    if (changes.isEmpty()) {
      throw Problem.badRequest(
          "Nothing is chosen", "Choose a point with changes, or a rarely used assignment.");
    }
    return new TrimDraft(proposals.begin("Trim the access of " + answer.name(), changes, context));
  }

  /** What becomes of rarely used assignments, as they are after other changes. */
  private static List<Change> rare(
      TrimChoice choice, TrimAnswer answer, List<Change> before, RequestContext context) {
    Set<String> justInTime = setOf(choice.justInTime());
    Set<String> ending = setOf(choice.ending());
    Instant until = choice.until();
    if (!ending.isEmpty() && (until == null || !until.isAfter(context.readPolicy().now()))) {
      throw Problem.badRequest(
          "There is no time at which they end", "Write an 'until' that is in the future.");
    }
    Set<String> all = new LinkedHashSet<>(justInTime);
    all.addAll(ending);
    Catalogue after = Draft.of(before).appliedUnchecked(context.state().engine().catalogue());
    List<Change> changes = new ArrayList<>();
    for (String key : all) {
      Assignment it = after.assignments().get(new AssignmentKey(key));
      if (it == null || answer.rare().stream().noneMatch(rare -> rare.key().equals(key))) {
        throw Problem.notFound(
            "'" + key + "' is not among the rarely used assignments. Choose from the list.");
      }
      Assignment then = justInTime.contains(key) ? it.in(Assignment.Mode.JUST_IN_TIME) : it;
      changes.add(
          new Change.Altered(
              it,
              ending.contains(key)
                  ? Rewritten.window(then, new Window(then.window().from(), until))
                  : then));
    }
    return changes;
  }

  private static Set<String> setOf(@Nullable List<String> keys) {
    return keys == null ? Set.of() : new LinkedHashSet<>(keys);
  }
}
