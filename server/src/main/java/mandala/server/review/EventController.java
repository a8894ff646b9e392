package mandala.server.review;

import jakarta.validation.Valid;
import java.time.Instant;
import java.util.List;
import mandala.server.authorization.RequestContexts;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Rules that make small rounds by events. */
@RestController
@RequestMapping("/api/reviews/rules")
class EventController {

  private final EventDesk events;
  private final RequestContexts contexts;

  EventController(EventDesk events, RequestContexts contexts) {
    this.events = events;
    this.contexts = contexts;
  }

  /**
   * A rule.
   *
   * @param heldUp why it waits for its owner
   * @param rounds how many it has made
   */
  record EventRuleView(
      long number,
      EventRule rule,
      String ownerName,
      Instant since,
      @Nullable String heldUp,
      int rounds) {}

  /** The rules that the viewer may run. */
  record EventRuleList(List<EventRuleView> rules) {}

  /** The rules that the viewer may run. */
  @GetMapping
  EventRuleList rules() {
    return new EventRuleList(events.list(contexts.context()));
  }

  /** Makes a rule, which looks at what happens from now on. */
  @PostMapping
  EventRuleView add(@Valid @RequestBody EventRule rule) {
    return events.add(rule, contexts.context());
  }

  /** Changes a rule; whoever does is its owner from then on. */
  @PutMapping("/{rule}")
  EventRuleView change(@PathVariable long rule, @Valid @RequestBody EventRule body) {
    return events.change(rule, body, contexts.context());
  }

  /** Ends a rule; its rounds go on. */
  @DeleteMapping("/{rule}")
  EventRuleList end(@PathVariable long rule) {
    events.end(rule, contexts.context());
    return rules();
  }
}
