package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import java.io.IOException;
import java.time.Instant;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** How could they get it: paths of changes by rights over the model. */
@RestController
@RequestMapping("/api/ask/chains")
class EscalationController {

  private final RequestContexts contexts;
  private final EscalationService answers;

  EscalationController(RequestContexts contexts, EscalationService answers) {
    this.contexts = contexts;
    this.answers = answers;
  }

  /** How one person could. */
  @GetMapping
  ChainsAnswer chains(
      @Valid @ParameterObject ClimberParams params,
      @Valid @ParameterObject RightParams right,
      @ParameterObject ModelParams model) {
    return answers.answer(params, right, context(model));
  }

  /** Who could, each with the shortest path. */
  @Costly
  @GetMapping("/everyone")
  ClimbersAnswer everyone(
      @Valid @ParameterObject RightParams right,
      @ParameterObject ModelParams model,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "2") int changes) {
    return answers.everyone(right, at, changes, context(model));
  }

  /** How one person could, as a file: a line for each link. */
  @Costly
  @GetMapping("/export")
  void export(
      @Valid @ParameterObject ClimberParams params,
      @Valid @ParameterObject RightParams right,
      @ParameterObject ModelParams model,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    chains(params, right, model).table(params.principal()).send(format, response);
  }

  /** Who could, as a file: a line for each link of the shortest path of each. */
  @Costly
  @GetMapping("/everyone/export")
  void exportEveryone(
      @Valid @ParameterObject RightParams right,
      @ParameterObject ModelParams model,
      @RequestParam(required = false) @Nullable Instant at,
      @RequestParam(defaultValue = "2") int changes,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    everyone(right, model, at, changes).table().send(format, response);
  }

  private RequestContext context(ModelParams model) {
    RequestContext context = model.context(contexts);
    return context.draftedWithin() == null ? context : context.live();
  }
}
