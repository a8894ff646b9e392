package mandala.server.review;

import java.time.Instant;
import java.util.List;
import mandala.core.model.Kind;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Rules that make rounds by events, of whoever may run reviews in all their accounts. Who changes
 * one is its owner from then on: its rounds are made with their rights.
 */
@Service
class EventDesk {

  private final EventRules rules;
  private final RoundDesk rounds;

  EventDesk(EventRules rules, RoundDesk rounds) {
    this.rules = rules;
    this.rounds = rounds;
  }

  /** {@return the rules that a viewer may run}, the oldest first */
  List<EventController.EventRuleView> list(RequestContext context) {
    return rules.all().stream()
        .filter(it -> RoundDesk.mayRun(order(it.rule(), context), context))
        .map(it -> view(it, context))
        .toList();
  }

  private static RoundOrder order(EventRule rule, RequestContext context) {
    return rule.order("", context.readPolicy().now());
  }

  private static EventController.EventRuleView view(EventRules.Kept it, RequestContext context) {
    return new EventController.EventRuleView(
        it.number(),
        it.rule().seen(context),
        context.text().name(Kind.PRINCIPALS, it.owner()),
        it.madeAt(),
        it.heldUp(),
        it.rounds());
  }

  private EventRules.Kept require(long number, RequestContext context) {
    return rules
        .locked(number)
        .filter(it -> RoundDesk.mayRun(order(it.rule(), context), context))
        .orElseThrow(
            () -> Problem.notFound("There is no rule " + number + ". Choose one from the list."));
  }

  /**
   * Makes a rule. It looks at what happens from now on.
   *
   * @throws Problem if the viewer may not run its rounds
   */
  @Transactional
  public EventController.EventRuleView add(EventRule rule, RequestContext context) {
    RoundDesk.requireRun(order(rule, context), context);
    long number =
        rules.add(rule, me(context), context.state().revision(), context.readPolicy().now());
    rounds.note(order(rule, context), "Made a rule for", context);
    return view(rules.one(number).orElseThrow(), context);
  }

  private static String me(RequestContext context) {
    return context.readPolicy().viewer().value();
  }

  /** Changes a rule. */
  @Transactional
  public EventController.EventRuleView change(long number, EventRule rule, RequestContext context) {
    require(number, context);
    RoundDesk.requireRun(order(rule, context), context);
    rules.change(number, rule, me(context));
    rounds.note(order(rule, context), "Changed the rule for", context);
    return view(rules.one(number).orElseThrow(), context);
  }

  /** Ends a rule; its rounds go on. */
  @Transactional
  public void end(long number, RequestContext context) {
    EventRules.Kept it = require(number, context);
    Instant now = context.readPolicy().now();
    rules.end(number, now);
    rounds.note(order(it.rule(), context), "Ended the rule for", context);
  }
}
