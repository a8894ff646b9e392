package mandala.server.question;

import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import java.io.IOException;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/**
 * How do they differ: two people, one person at two times, at two revisions, without and with a
 * draft, or any of these together; a person and a role, a pattern, or what colleagues have in
 * common; two roles.
 */
@RestController
@RequestMapping("/api/ask/difference")
class DifferenceController {

  private final DifferenceService answers;

  DifferenceController(DifferenceService answers) {
    this.answers = answers;
  }

  /** How the two sides differ. */
  @GetMapping
  DifferenceAnswer difference(@Valid @ParameterObject DifferenceParams params) {
    return answers.answer(params);
  }

  /** The same as a file. */
  @GetMapping("/export")
  void export(
      @Valid @ParameterObject DifferenceParams params,
      @RequestParam String format,
      HttpServletResponse response)
      throws IOException {
    difference(params).table().send(format, response);
  }
}
