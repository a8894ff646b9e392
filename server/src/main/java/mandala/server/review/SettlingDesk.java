package mandala.server.review;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import mandala.core.model.Kind;
import mandala.document.ReviewText;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Shows what becomes of decisions, and takes what people do about those that have no effect. */
@Service
class SettlingDesk {

  /** Items listed that keep a round from closing. */
  private static final int MOST = 200;

  private final ReviewStore store;
  private final SettlingStore settling;
  private final WaitingItems waiting;
  private final CarryOut carrying;
  private final RoundDesk rounds;
  private final TransactionTemplate transactions;

  SettlingDesk(
      ReviewStore store,
      SettlingStore settling,
      WaitingItems waiting,
      CarryOut carrying,
      RoundDesk rounds,
      TransactionTemplate transactions) {
    this.store = store;
    this.settling = settling;
    this.waiting = waiting;
    this.carrying = carrying;
    this.rounds = rounds;
    this.transactions = transactions;
  }

  /**
   * {@return what becomes of a round's decisions, and what keeps it from closing}
   *
   * @throws Problem if the viewer does not run it
   */
  ReviewEffectController.RoundEffects effects(long number, RequestContext context) {
    Round round = rounds.require(number, context);
    boolean over = round.isOpen() && round.course().lateSince() != null;
    boolean mine = round.owner().equals(context.readPolicy().viewer().value());
    SettlingStore.Sizes sizes = settling.sizes(number);
    Map<String, Integer> drafts = new LinkedHashMap<>();
    List<ReviewEffectController.UnsettledItem> left = new ArrayList<>();
    if (round.isOpen()) {
      for (String draft : settling.drafts(number)) {
        drafts.put(draft, settling.inDraft(number, draft).size());
      }
      ReviewText text = new ReviewText(context.state().engine().catalogue(), context.naming());
      for (RoundItem it : settling.unsettled(number, over ? MOST : 0)) {
        left.add(
            new ReviewEffectController.UnsettledItem(
                it.number(),
                text.of(it.item()),
                it.decider() == null
                    ? "No one"
                    : context.text().name(Kind.PRINCIPALS, it.decider()),
                it.isUnsettled() ? (it.effect().draft() == null ? "due" : "waiting") : "undecided",
                it.effect().remark(),
                mine ? it.effect().draft() : null));
      }
    }
    return new ReviewEffectController.RoundEffects(
        over,
        sizes.left(),
        sizes.toCarry(),
        sizes.waiting(),
        sizes.inForce(),
        sizes.answered(),
        sizes.returned(),
        drafts.entrySet().stream()
            .map(it ->
                new ReviewEffectController.CarryingDraft(mine ? it.getKey() : null, it.getValue()))
            .toList(),
        left,
        !mine,
        round.course().before(),
        round.course().after());
  }

  /** Makes whoever calls the owner of an open round: decisions take effect with their rights. */
  @Transactional
  public ReviewEffectController.RoundEffects takeOver(long number, RequestContext context) {
    Round round = rounds.require(number, context);
    String me = context.readPolicy().viewer().value();
    store.lock(number);
    if (round.state() == Round.State.CLOSED || round.state() == Round.State.CANCELLED) {
      throw over(round);
    }
    if (!round.owner().equals(me)) {
      for (String draft : settling.drafts(number)) {
        carrying.free(number, draft);
      }
      settling.owner(number, me);
      rounds.note(round.order(), "Took over", context);
    }
    return effects(number, context);
  }

  private static Problem over(Round round) {
    return Problem.conflict(
        "The round “" + round.title() + "” is over", "Choose one that is open or planned.");
  }

  /** Answers for an item that has no decision in force: it keeps the round open no longer. */
  @Transactional
  public ReviewEffectController.RoundEffects answerFor(
      long number, int item, String said, RequestContext context) {
    Round round = rounds.require(number, context);
    store.lock(number);
    if (!round.isOpen()) {
      throw over(round);
    }
    RoundItem it =
        store
            .lockedItem(number, item)
            .orElseThrow(() -> Problem.notFound("There is no item " + item + ". Choose another."));
    boolean stuck =
        (it.isUnsettled() && round.course().lateSince() != null)
            || (it.isDecidable() && it.effect().returned() > 0);
    if (!stuck) {
      throw Problem.conflict(
          "Nothing is to be answered for here",
          "Its reviewer decides it, or its decision is in force or takes effect by itself. Choose"
              + " what is left after the end.");
    }
    String draft = it.effect().draft();
    if (draft != null) {
      carrying.free(number, draft);
    }
    settling.settled(
        it, RoundItem.Outcome.ANSWERED, null, said.strip(), context.readPolicy().now());
    note(it, "answered-for", said.strip(), context);
    rounds.note(round.order(), "Answered for item " + item + " in", context);
    return effects(number, context);
  }

  /**
   * Takes back one's own decision that counts, while the round is open. What is in force already is
   * reverted with the rights of the round's owner.
   *
   * @return how many, which is 1
   */
  public int takeBack(long number, int item, RequestContext context) {
    Round round = waiting.requireRound(number, context);
    if (!round.isOpen()) {
      throw Problem.conflict(
          "The round “" + round.title() + "” is over", "Change the access by a draft instead.");
    }
    RoundItem it = waiting.require(number, item, context, false);
    String me = context.readPolicy().viewer().value();
    if (it.state() != RoundItem.State.DONE || !me.equals(it.decidedBy())) {
      throw Problem.conflict(
          "This decision does not count yet, or is not yours", "Choose one of your decisions.");
    }
    if (it.effect().outcome() == RoundItem.Outcome.ANSWERED) {
      throw Problem.conflict(
          "Whoever runs the round answers for this", "Ask them to change the access by a draft.");
    }
    if (it.effect().outcome() == RoundItem.Outcome.IN_FORCE) {
      carrying.revert(round, it, context.state());
    }
    transactions.executeWithoutResult(_ -> {
      RoundItem fresh = waiting.require(number, item, context, true);
      String draft = fresh.effect().draft();
      if (draft != null && fresh.effect().outcome() == RoundItem.Outcome.WAITING) {
        carrying.free(number, draft);
      }
      if (fresh.state() == RoundItem.State.DONE) {
        settling.reopened(fresh);
        note(fresh, "taken-back", null, context);
      }
    });
    return 1;
  }

  private void note(RoundItem it, String act, @Nullable String said, RequestContext context) {
    store.note(
        it.round(),
        it.number(),
        new ReviewStore.Act(
            act,
            context.readPolicy().viewer().value(),
            context.readPolicy().now(),
            it.verdict(),
            said,
            null));
  }
}
