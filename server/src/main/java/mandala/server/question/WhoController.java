package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import mandala.server.authorization.RequestContexts;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Who can do this there? People for themselves and for others, those denied apart. */
@RestController
@RequestMapping("/api/ask/who")
class WhoController {

  private final RequestContexts contexts;
  private final HoldersService answers;

  WhoController(RequestContexts contexts, HoldersService answers) {
    this.contexts = contexts;
    this.answers = answers;
  }

  /** Who can, could, is blocked or denied. */
  @GetMapping
  WhoAnswer who(@ParameterObject HoldersParams params, @ParameterObject ModelParams model) {
    return answers.answer(params, model.context(contexts));
  }

  /** The same as a file. */
  @GetMapping("/export")
  void export(
      @ParameterObject HoldersParams params,
      @ParameterObject ModelParams model,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    who(params, model).table().send(format, response);
  }
}
