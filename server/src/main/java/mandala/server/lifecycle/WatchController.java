package mandala.server.lifecycle;

import jakarta.validation.Valid;
import java.time.Instant;
import java.util.List;
import mandala.server.authorization.RequestContexts;
import mandala.server.platform.Costly;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Rules that watch for people who are not seen, and for what is left over. */
@RestController
@RequestMapping("/api/watch-rules")
class WatchController {

  private final WatchDesk desk;
  private final RequestContexts contexts;

  WatchController(WatchDesk desk, RequestContexts contexts) {
    this.desk = desk;
    this.contexts = contexts;
  }

  /**
   * What a rule did.
   *
   * @param act {@code warned}, {@code acted} or {@code reported}
   * @param revision that did it; null of warnings and reports
   */
  record WatchActView(Instant at, String act, int people, @Nullable Long revision) {}

  /**
   * A rule.
   *
   * @param ownerName with whose rights it acts
   * @param heldUp why it waits for its owner
   * @param draft that waits to be applied
   * @param done what it did last, the newest first
   */
  record WatchRuleView(
      long number,
      WatchOrder rule,
      String accountName,
      @Nullable String groupName,
      String ownerName,
      Instant since,
      @Nullable String heldUp,
      @Nullable String draft,
      List<WatchActView> done) {}

  /** The rules of accounts in which the viewer may manage people. */
  record WatchRuleList(List<WatchRuleView> rules) {}

  /**
   * Somebody whom a rule finds.
   *
   * @param since when they were seen last, or since when the rule could say so
   * @param what {@code acts} now, {@code warns} now, or {@code waits}: warned, with time left
   */
  record WatchedView(String key, String name, String accountName, Instant since, String what) {}

  /**
   * What a rule would do today.
   *
   * @param first of those it finds, whoever was not seen for longest first
   */
  record WatchPreview(int acts, int warns, int waits, List<WatchedView> first) {}

  /** The rules of accounts in which the viewer may manage people. */
  @GetMapping
  WatchRuleList rules() {
    return new WatchRuleList(desk.list(contexts.context()));
  }

  /** What a rule would do today. */
  @Costly
  @PostMapping("/preview")
  WatchPreview preview(@Valid @RequestBody WatchOrder rule) {
    return desk.preview(rule, contexts.context());
  }

  /** Makes a rule, which looks every hour. */
  @PostMapping
  WatchRuleView add(@Valid @RequestBody WatchOrder rule) {
    return desk.add(rule, contexts.context());
  }

  /** Changes a rule; whoever does is its owner from then on. */
  @PutMapping("/{rule}")
  WatchRuleView change(@PathVariable long rule, @Valid @RequestBody WatchOrder body) {
    return desk.change(rule, body, contexts.context());
  }

  /** Ends a rule; what it did stays. */
  @DeleteMapping("/{rule}")
  WatchRuleList end(@PathVariable long rule) {
    desk.end(rule, contexts.context());
    return rules();
  }

  /** Has a rule look now. */
  @Costly
  @PostMapping("/{rule}/look")
  WatchRuleView look(@PathVariable long rule) {
    return desk.look(rule, contexts.context());
  }
}
