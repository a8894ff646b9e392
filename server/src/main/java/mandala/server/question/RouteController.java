package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import java.io.IOException;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Why can they, or why can't they? */
@RestController
@RequestMapping("/api/ask/routes")
class RouteController {

  private final RequestContexts contexts;
  private final RouteService answers;

  RouteController(RequestContexts contexts, RouteService answers) {
    this.contexts = contexts;
    this.answers = answers;
  }

  /**
   * The routes to one right.
   *
   * @param asActive whether to answer as if they were active, where they are not
   */
  @GetMapping
  RoutesAnswer routes(
      @Valid @ParameterObject PersonParams person,
      @Valid @ParameterObject RightParams right,
      @ParameterObject ModelParams model,
      @RequestParam(defaultValue = "false") boolean asActive) {
    RequestContext context = model.context(contexts);
    return answers.answer(
        person.in(asActive ? contexts.asActive(context, person.principal()) : context), right);
  }

  /** The same as a file: a line for each step of each route. */
  @GetMapping("/export")
  void export(
      @Valid @ParameterObject PersonParams person,
      @Valid @ParameterObject RightParams right,
      @ParameterObject ModelParams model,
      @RequestParam(defaultValue = "false") boolean asActive,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    routes(person, right, model, asActive).table().send(format, response);
  }
}
