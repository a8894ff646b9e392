package mandala.server.review;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.engine.Engine;
import mandala.core.model.Principal;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Session;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Brings rounds to their end: reminds reviewers, has what was decided carried out, and after the
 * end makes unfinished decisions count, escalates, and does what the round's rule says with what
 * nobody decided. A round closes when every decision is in force or answered for.
 */
@Component
class RoundEnds {

  private static final int PAGE = 5_000;

  private final ReviewStore store;
  private final SettlingStore settling;
  private final RoundFigures figures;
  private final FinishDesk finishing;
  private final CarryOut carrying;
  private final RoundCloser closer;
  private final LiveModel model;
  private final RequestContexts contexts;
  private final Notices notices;
  private final TransactionTemplate transactions;
  private final ZoneId zone;

  RoundEnds(
      ReviewStore store,
      SettlingStore settling,
      RoundFigures figures,
      FinishDesk finishing,
      CarryOut carrying,
      RoundCloser closer,
      LiveModel model,
      RequestContexts contexts,
      Notices notices,
      TransactionTemplate transactions,
      @Value("${mandala.zone}") ZoneId zone) {
    this.store = store;
    this.settling = settling;
    this.figures = figures;
    this.finishing = finishing;
    this.carrying = carrying;
    this.closer = closer;
    this.model = model;
    this.contexts = contexts;
    this.notices = notices;
    this.transactions = transactions;
    this.zone = zone;
  }

  /** Does what is due in an open round. */
  void run(Round round, Instant now) {
    RoundOrder.RoundEffect how = round.order().effectOrUsual();
    if (round.ends().isAfter(now)) {
      remind(round, how, now);
      carrying.run(round, now);
      return;
    }
    if (round.course().lateSince() == null) {
      inOrder(round, () -> begin(round, how, now));
    }
    if (!round.ends().plus(Duration.ofDays(how.grace())).isAfter(now)) {
      inOrder(round, () -> decideByRule(round, how, now));
    }
    carrying.run(round, now);
    if (settling.sizes(round.number()).left() == 0) {
      closer.close(round, now);
    }
  }

  /** Does something while nobody else changes the round, where it is open. */
  private void inOrder(Round round, Runnable what) {
    transactions.executeWithoutResult(_ -> {
      store.lock(round.number());
      if (store.round(round.number()).orElseThrow().isOpen()) {
        what.run();
      }
    });
  }

  // ---- before the end ---------------------------------------------------------------------------

  private void remind(Round round, RoundOrder.RoundEffect how, Instant now) {
    Instant from = round.ends().minus(Duration.ofDays(how.remind()));
    if (how.remind() == 0
        || round.course().remindedAt() != null
        || from.isAfter(now)
        || !from.isAfter(round.begins())) {
      return;
    }
    inOrder(
        round,
        () -> {
          settling.reminded(round.number(), now);
          figures
              .progress(round.number())
              .forEach((who, it) -> {
                int left = it.all() - it.gone() - it.done();
                if (left > 0 && !who.isEmpty()) {
                  notices.tell(
                      who,
                      new Notices.Notice(
                          NoticeKind.REVIEW_WAITS,
                          (left == 1 ? "1 item still waits" : left + " items still wait")
                              + " for your decision in “"
                              + round.title()
                              + "”. Finish before it ends.",
                          "/reviews/" + round.number()));
                }
              });
        });
  }

  // ---- at the end -------------------------------------------------------------------------------

  /** Makes what was decided count, has managers decide the rest, and plans the next round. */
  private void begin(Round round, RoundOrder.RoundEffect how, Instant now) {
    settling.late(round.number(), now);
    for (String decider : figures.progress(round.number()).keySet()) {
      if (!decider.isEmpty()) {
        finishFor(round, decider, now);
      }
    }
    if (how.escalate()) {
      escalate(round, now);
    }
    planNext(round, now);
  }

  /** Decisions that nobody finished count; those that can't come back with the reason. */
  private void finishFor(Round round, String decider, Instant now) {
    Session session = new Session(new PrincipalKey(decider), now, true, null);
    String why = finishing.finishFor(round, contexts.of(session));
    if (why != null) {
      for (RoundItem it : store.itemsOf(round.number(), decider)) {
        if (it.state() == RoundItem.State.DECIDED) {
          settling.returned(it, why);
          act(it, "returned", why, null, now);
        }
      }
    }
  }

  /** Undecided items go to the manager of whoever did not decide them. */
  private void escalate(Round round, Instant now) {
    Engine engine = model.engine();
    Map<String, Integer> given = new HashMap<>();
    for (RoundItem it : open(round)) {
      PrincipalKey manager = managerOf(it.decider(), engine, now);
      if (manager != null && !it.item().parties(engine.catalogue()).contains(manager)) {
        store.pass(it, manager.value(), "escalated");
        act(it, "escalated", null, manager.value(), now);
        given.merge(manager.value(), 1, Integer::sum);
      }
    }
    given.forEach((who, many) ->
        notices.tell(
            who,
            new Notices.Notice(
                NoticeKind.REVIEW_WAITS,
                (many == 1 ? "1 item" : many + " items")
                    + " of “"
                    + round.title()
                    + "” came to you, undecided at its end.",
                "/reviews/" + round.number())));
  }

  private static @Nullable PrincipalKey managerOf(
      @Nullable String decider, Engine engine, Instant now) {
    Principal it =
        decider == null ? null : engine.catalogue().principals().get(new PrincipalKey(decider));
    PrincipalKey manager = it == null ? null : it.manager();
    return manager != null && engine.isActive(manager, now) ? manager : null;
  }

  private List<RoundItem> open(Round round) {
    List<RoundItem> open = new ArrayList<>();
    List<RoundItem> some;
    int after = 0;
    do {
      some = store.pending(round.number(), after, PAGE);
      for (RoundItem it : some) {
        after = it.number();
        if (it.state() == RoundItem.State.OPEN) {
          open.add(it);
        }
      }
    } while (some.size() == PAGE);
    return open;
  }

  private void act(
      RoundItem it, String act, @Nullable String said, @Nullable String whom, Instant now) {
    store.note(
        it.round(), it.number(), new ReviewStore.Act(act, null, now, it.verdict(), said, whom));
  }

  // ---- what nobody decided ----------------------------------------------------------------------

  /** What was never decided, once; what came back waits for a person. */
  private void decideByRule(Round round, RoundOrder.RoundEffect how, Instant now) {
    for (RoundItem it : open(round)) {
      if (it.control()) {
        store.gone(it.round(), it.number());
      } else if (it.effect().returned() == 0) {
        byRule(it, how.undecided(), now);
      }
    }
  }

  private void byRule(RoundItem it, String rule, Instant now) {
    Engine engine = model.engine();
    DecidedChanges.Reduction end = new DecidedChanges.Reduction(Reductions.END, now);
    boolean canEnd =
        rule.equals("suspend")
            && !Reductions.changes(end.way(), now, it.item(), List.of(), engine, now).isEmpty();
    String verdict =
        switch (rule) {
          case "remove" -> "remove";
          case "suspend" -> canEnd ? "reduce" : "keep";
          default -> "keep";
        };
    String reason =
        "Nobody decided"
            + switch (verdict) {
              case "remove" -> ": removed by the rule of the round";
              case "reduce" -> ": suspended by the rule of the round";
              default ->
                  rule.equals("suspend")
                      ? ": kept, for it can't be suspended"
                      : ": kept by the rule of the round";
            };
    settling.byRule(it, verdict, reason, verdict.equals("reduce") ? end.json() : null, now);
    store.note(
        it.round(), it.number(), new ReviewStore.Act("by-rule", null, now, verdict, reason, null));
  }

  // ---- the next one -----------------------------------------------------------------------------

  private void planNext(Round it, Instant now) {
    ZonedDateTime next = next(it);
    if (next != null) {
      Duration length = Duration.between(it.begins(), it.ends());
      store.add(
          it.order().from(next.toInstant(), next.toInstant().plus(length)),
          it.owner(),
          Round.State.PLANNED,
          now,
          "it repeats round " + it.number());
    }
  }

  private @Nullable ZonedDateTime next(Round it) {
    ZonedDateTime began = it.begins().atZone(zone);
    return switch (it.order().repeats()) {
      case "monthly" -> began.plusMonths(1);
      case "quarterly" -> began.plusMonths(3);
      case "yearly" -> began.plusYears(1);
      default -> null;
    };
  }
}
