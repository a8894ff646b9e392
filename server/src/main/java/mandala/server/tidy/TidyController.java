package mandala.server.tidy;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotEmpty;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.tidy.TidyChoice;
import mandala.core.tidy.TidyStep;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.draft.DraftProposals;
import mandala.server.job.Job;
import mandala.server.job.JobAnswers;
import mandala.server.job.JobOrders;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Makes the model smaller while everybody's access stays the same (section 12). */
@RestController
@RequestMapping("/api/tidy")
class TidyController {

  /** Maximum number of proposals that one call takes. */
  private static final int MOST = 100_000;

  private final RequestContexts contexts;
  private final JobOrders orders;
  private final JobAnswers answers;
  private final DraftProposals proposals;

  TidyController(
      RequestContexts contexts, JobOrders orders, JobAnswers answers, DraftProposals proposals) {
    this.contexts = contexts;
    this.orders = orders;
    this.answers = answers;
    this.proposals = proposals;
  }

  /**
   * What to look for.
   *
   * @param roles whether roles and groups are proposed, too, for what many are given one by one;
   *     not where absent
   */
  record TidyOrder(@Nullable Boolean roles) {}

  /** Begins to look for what can go. */
  @PostMapping
  Job begin(@Valid @RequestBody TidyOrder order) {
    if (!contexts.context().readPolicy().mayReadAnybody()) {
      throw Problem.forbidden(
          "Your access does not cover the rights of any account. Ask a security administrator.");
    }
    return orders.begin(
        TidyJob.NAME, "Tidy rights", new TidyJob.Order(Boolean.TRUE.equals(order.roles())));
  }

  /** The proposals, once they are found. */
  @GetMapping("/{job}")
  TidyAnswer proposals(@PathVariable String job) {
    return answers.of(job, TidyJob.NAME, TidyAnswer.class).told();
  }

  /**
   * Which proposals are taken; those that they need come with them.
   *
   * @param steps their places in the list, from 0
   */
  record TidySelection(@NotEmpty @Size(max = MOST) List<@NotNull @Min(0) Integer> steps) {}

  /**
   * A draft that was begun.
   *
   * @param changes how many changes it has
   */
  record TidyDraft(String draft, int changes) {}

  /** Begins a draft of what is taken, which becomes the caller's active one. */
  @PostMapping("/{job}/draft")
  TidyDraft draft(@PathVariable String job, @Valid @RequestBody TidySelection selection) {
    RequestContext context = contexts.context();
    TidyAnswer answer = answers.of(job, TidyJob.NAME, TidyAnswer.class);
    DraftProposals.requireNewest(answer.revision(), context);
    if (!answer.changes()) {
      throw Problem.forbidden(
          "You may read these proposals, but not change what they are about. Ask a security"
              + " administrator.");
    }
    List<TidyStep> steps = TidyJob.steps(answer);
    for (int it : selection.steps()) {
      if (it >= steps.size()) {
        throw Problem.notFound(
            "There is no proposal " + it + " among " + steps.size() + ". Choose from the list.");
      }
    }
    List<Change> changes = TidyChoice.changes(steps, selection.steps());
    Engine engine = context.state().engine();
    if (!TidyChoice.meansTheSame(engine, engine.after(changes), answer.at())) {
      throw new IllegalStateException("Impossible state: a choice of proposals changes access");
    }
    return new TidyDraft(proposals.begin("Tidy rights", changes, context), changes.size());
  }
}
