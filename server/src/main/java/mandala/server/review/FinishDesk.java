package mandala.server.review;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Trail;
import mandala.server.authorization.RequestContext;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.platform.Problem;
import mandala.server.session.AuditContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Shows what a reviewer's decisions do together, and makes them count. */
@Service
class FinishDesk {

  private final ReviewStore store;
  private final WaitingItems waiting;
  private final DecisionEffects effects;
  private final Notices notices;
  private final Trail trail;
  private final AuditContext auditContext;

  FinishDesk(
      ReviewStore store,
      WaitingItems waiting,
      DecisionEffects effects,
      Notices notices,
      Trail trail,
      AuditContext auditContext) {
    this.store = store;
    this.waiting = waiting;
    this.effects = effects;
    this.notices = notices;
    this.trail = trail;
    this.auditContext = auditContext;
  }

  /**
   * {@return what the viewer's decisions in a round do together}, as far as they may know: to those
   * about whom they decide, and to those about whom they may ask
   */
  ReviewController.DecisionEffect effect(long round, RequestContext context) {
    waiting.requireRound(round, context);
    return effects.of(round, effects.decided(round, context), context);
  }

  /** Answers for an expectation that the viewer's decisions break. */
  @Transactional
  public ReviewController.DecisionEffect answerFor(
      long round, ReviewController.ExpectationAnswer order, RequestContext context) {
    waiting.requireRound(round, context);
    String key =
        context.state().engine().catalogue().expectations().values().stream()
            .map(it -> it.key().value())
            .filter(it ->
                it.equals(order.expectation())
                    || context.mark("expectation " + it).equals(order.expectation()))
            .findFirst()
            .orElseThrow(() ->
                Problem.notFound(
                    "Your decisions break no such expectation. Choose one of the list."));
    store.answer(
        round,
        context.readPolicy().viewer().value(),
        key,
        order.said().strip(),
        context.readPolicy().now());
    return effects.of(round, effects.decided(round, context), context);
  }

  /**
   * Makes the viewer's decisions count; where there are more stages, the next one decides.
   *
   * @return how many
   * @throws Problem if an expectation would break for which nobody answers, or the changes do not
   *     fit
   */
  @Transactional
  public int finish(long round, RequestContext context) {
    Round of = waiting.requireRound(round, context);
    store.lock(round);
    if (!of.isOpen()) {
      throw Problem.conflict("The round “" + of.title() + "” is over", "Ask whoever runs it.");
    }
    List<RoundItem> decided = effects.decided(round, context);
    ReviewController.DecisionEffect effect = effects.of(round, decided, context);
    if (effect.faulty()) {
      throw Problem.conflict(
          "Your decisions do not fit together", "Undo the last ones, then try again.");
    }
    List<String> open =
        effect.broken().stream()
            .filter(it -> it.answer() == null)
            .map(ReviewController.BrokenExpectation::name)
            .toList();
    if (!open.isEmpty()) {
      throw Problem.conflict(
          "An expectation would break",
          "“"
              + String.join("”, “", open)
              + "” would no longer hold. Change a decision, or answer for it.");
    }
    count(of, decided, context);
    return decided.size();
  }

  /**
   * Makes decisions count of somebody who did not finish before the end.
   *
   * @param who as whom it is judged
   * @return what speaks against it, null where nothing does
   */
  @Nullable String finishFor(Round of, RequestContext who) {
    List<RoundItem> decided = effects.decided(of.number(), who);
    if (decided.isEmpty()) {
      return null;
    }
    ReviewController.DecisionEffect effect = effects.of(of.number(), decided, who);
    if (effect.faulty()) {
      return "Your decisions do not fit together";
    }
    if (effect.broken().stream().anyMatch(it -> it.answer() == null)) {
      return "An expectation would break, and nobody answers for it";
    }
    count(of, decided, who);
    return null;
  }

  private void count(Round of, List<RoundItem> decided, RequestContext context) {
    long round = of.number();
    Set<String> next = new HashSet<>();
    for (RoundItem it : decided) {
      store.note(round, it.number(), counted(it, context));
      if (it.later().isEmpty()) {
        store.done(it);
      } else {
        store.nextStage(it);
        if (!it.later().getFirst().isEmpty()) {
          next.add(it.later().getFirst());
        }
      }
    }
    if (!decided.isEmpty()) {
      write(of, decided, context);
    }
    next.forEach(who ->
        notices.tell(
            who,
            new Notices.Notice(
                NoticeKind.REVIEW_WAITS,
                "Items wait for your decision in “" + of.title() + "”.",
                "/reviews/" + round)));
  }

  private void write(Round of, List<RoundItem> decided, RequestContext context) {
    Map<String, Integer> counts = new HashMap<>();
    decided.forEach(it -> counts.merge(Objects.requireNonNull(it.verdict()), 1, Integer::sum));
    trail.write(
        List.of(
            auditContext.by(
                AuditEvent.Act.CHECKED,
                RoundDesk.accounts(of.order(), context.state().engine().catalogue()).stream()
                    .map(it -> it.value())
                    .toList(),
                "Finished "
                    + decided.size()
                    + " decisions in the review round “"
                    + of.title()
                    + "”: "
                    + counts.getOrDefault("keep", 0)
                    + " kept, "
                    + counts.getOrDefault("reduce", 0)
                    + " reduced, "
                    + counts.getOrDefault("remove", 0)
                    + " removed")));
  }

  private static ReviewStore.Act counted(RoundItem it, RequestContext context) {
    return new ReviewStore.Act(
        "counted",
        context.readPolicy().viewer().value(),
        context.readPolicy().now(),
        it.verdict(),
        it.reason(),
        null);
  }
}
