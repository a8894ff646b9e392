package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import java.io.IOException;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.job.Job;
import mandala.server.job.JobAnswers;
import mandala.server.platform.Costly;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How could they get it: paths of changes by rights over the model. */
@RestController
@RequestMapping("/api/ask/escalation")
class EscalationController {

  private final RequestContexts contexts;
  private final EscalationService answers;
  private final JobAnswers jobs;

  EscalationController(RequestContexts contexts, EscalationService answers, JobAnswers jobs) {
    this.jobs = jobs;
    this.contexts = contexts;
    this.answers = answers;
  }

  /** How one person could. */
  @GetMapping
  EscalationAnswer paths(
      @Valid @ParameterObject EscalatorParams params,
      @Valid @ParameterObject RightParams right,
      @ParameterObject ModelParams model) {
    return answers.answer(params, right, context(model));
  }

  /**
   * Begins the search for everybody who could; the job's answer has each with the shortest path.
   */
  @PostMapping("/everyone")
  Job everyone(@Valid @RequestBody EscalationSearchJob.Order order) {
    return answers.begin(order, context(new ModelParams(order.draft(), order.revision())));
  }

  /** Who could, each with the shortest path: the answer of a job that is done. */
  @GetMapping("/everyone/{job}")
  EscalatorsAnswer found(@PathVariable String job) {
    return jobs.of(job, EscalationSearchJob.NAME, EscalatorsAnswer.class);
  }

  /** How one person could, as a file: a line for each step. */
  @Costly
  @GetMapping("/export")
  void export(
      @Valid @ParameterObject EscalatorParams params,
      @Valid @ParameterObject RightParams right,
      @ParameterObject ModelParams model,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    paths(params, right, model).table(params.principal()).send(format, response);
  }

  private RequestContext context(ModelParams model) {
    return EscalationPathView.told(model.context(contexts));
  }
}
