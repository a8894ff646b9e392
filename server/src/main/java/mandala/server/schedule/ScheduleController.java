package mandala.server.schedule;

import java.util.List;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Problem;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** What recurs, for those who manage the settings of an account. */
@RestController
@RequestMapping("/api/settings/schedule")
class ScheduleController {

  private final Recurrences recurrences;
  private final RequestContexts contexts;

  ScheduleController(Recurrences recurrences, RequestContexts contexts) {
    this.recurrences = recurrences;
    this.contexts = contexts;
  }

  /** What recurs. */
  record RecurringList(List<Recurrences.Recurrence> works) {}

  /** What recurs, when next, and how it went last. */
  @GetMapping
  RecurringList all() {
    RequestContext context = contexts.context();
    if (!context.readPolicy().managesSettings()) {
      throw Problem.forbidden(
          "You need “Manage settings” on an account to see what runs by itself. Ask its"
              + " administrator.");
    }
    return new RecurringList(recurrences.all());
  }
}
