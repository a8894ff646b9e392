package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import java.io.IOException;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What would give an access, and what must go for it to end; each ready to go into the draft. */
@RestController
@RequestMapping("/api/ask/remedies")
class RemediationController {

  private final RequestContexts contexts;
  private final RemediationService answers;

  RemediationController(RequestContexts contexts, RemediationService answers) {
    this.contexts = contexts;
    this.answers = answers;
  }

  /** What would give one right, or end it. */
  @GetMapping
  RemediesAnswer remedies(
      @Valid @ParameterObject PersonParams person,
      @Valid @ParameterObject RightParams right,
      @RequestParam(required = false) @Nullable String draft) {
    return answers.answer(person.in(contexts.context(draft, null)).requirePresent(), right);
  }

  /** The same as a file: a line for each remediation. */
  @GetMapping("/export")
  void export(
      @Valid @ParameterObject PersonParams person,
      @Valid @ParameterObject RightParams right,
      @RequestParam(required = false) @Nullable String draft,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    remedies(person, right, draft).table().send(format, response);
  }
}
