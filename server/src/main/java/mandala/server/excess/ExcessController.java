package mandala.server.excess;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import java.time.Instant;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What of somebody's access is needed, young, not observed and unused (section 12). */
@RestController
@RequestMapping("/api/excess")
class ExcessController {

  private final RequestContexts contexts;
  private final ExcessService answers;

  ExcessController(RequestContexts contexts, ExcessService answers) {
    this.contexts = contexts;
    this.answers = answers;
  }

  /**
   * Whose excess, within what window, in which model.
   *
   * @param principal key of the person or service
   * @param at the instant asked about; now where absent
   * @param days dates in UTC that end with that of the instant; those of the policy where absent
   * @param draft id of a draft to lay over the model in force, or {@code open} for one's own
   * @param revision number of a past revision
   */
  record ExcessParams(
      @NotNull String principal,
      @Nullable Instant at,
      @Nullable @Min(1) @Max(3660) Integer days,
      @Nullable String draft,
      @Nullable Long revision) {}

  /**
   * What of somebody's access they use.
   *
   * @param in key of the account of the figure, or absent for all
   * @param doors whether the figure includes bridges out of that account
   */
  @GetMapping
  ExcessAnswer excess(
      @Valid @ParameterObject ExcessParams params,
      @RequestParam(required = false) @Nullable String in,
      @RequestParam(defaultValue = "false") boolean doors) {
    return answers.answer(params, in, doors, contexts.context(params.draft(), params.revision()));
  }

  /** What of one permission is unused, place by place, and why that may be trusted. */
  @GetMapping("/rights")
  UnusedAnswer rights(
      @Valid @ParameterObject ExcessParams params, @RequestParam String permission) {
    return answers.rights(params, permission, contexts.context(params.draft(), params.revision()));
  }
}
