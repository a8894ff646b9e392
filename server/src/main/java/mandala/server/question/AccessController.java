package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import java.io.IOException;
import java.util.List;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What can this principal do here, then, signed in so, acting as that one? */
@RestController
@RequestMapping("/api/ask")
class AccessController {

  private final RequestContexts contexts;
  private final AccessService answers;

  AccessController(RequestContexts contexts, AccessService answers) {
    this.contexts = contexts;
    this.answers = answers;
  }

  /**
   * What somebody can do.
   *
   * @param asActive whether to answer as if they were active, where they are not
   */
  @GetMapping("/access")
  AccessAnswer access(
      @Valid @ParameterObject PersonParams person,
      @ParameterObject ModelParams model,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(defaultValue = "false") boolean doors,
      @RequestParam(defaultValue = "false") boolean asActive) {
    return answers.answer(question(person, model, asActive), in, doors, RegionView.MOST_SIZE);
  }

  /** The same as a file: a line for each permission of each region that says anything. */
  @GetMapping("/access/export")
  void export(
      @Valid @ParameterObject PersonParams person,
      @ParameterObject ModelParams model,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(defaultValue = "false") boolean doors,
      @RequestParam(defaultValue = "false") boolean asActive,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    answers
        .answer(question(person, model, asActive), in, doors, Integer.MAX_VALUE)
        .table()
        .send(format, response);
  }

  /** What lies inside of a region that said there is more, one level of it. */
  @GetMapping("/inside")
  List<RegionView> inside(
      @Valid @ParameterObject PersonParams person,
      @ParameterObject ModelParams model,
      @RequestParam String resource,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(defaultValue = "false") boolean asActive) {
    return answers.inside(question(person, model, asActive), resource, in);
  }

  private AccessQuestion question(PersonParams person, ModelParams model, boolean asActive) {
    RequestContext context = model.context(contexts);
    return person.in(asActive ? contexts.asActive(context, person.principal()) : context);
  }
}
