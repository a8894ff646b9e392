package mandala.server.review;

import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import mandala.core.change.Change;
import mandala.core.engine.Engine;
import mandala.core.model.Account;
import mandala.core.model.key.AccountKey;
import mandala.server.draft.UnattendedDrafts;
import mandala.server.draft.UnattendedDrafts.Answer;
import mandala.server.model.LiveModel;
import mandala.server.notice.NoticeKind;
import mandala.server.notice.Notices;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Carries out decisions that count: a draft for each account, with the rights of the round's owner
 * (section 11, "what happens by itself"). Items are marked in the transaction that makes a draft,
 * and what became of it is read from the draft afterwards, so that a server that dies between does
 * nothing twice. What can't take effect comes back to its reviewer with the reason.
 */
@Component
class CarryOut {

  /** Decisions in one draft: its revision names each. */
  private static final int AT_ONCE = 100;

  /** Decisions that wait for the owner after which a run tries no more. */
  private static final int TRIED = 20;

  /** Decisions looked at in one run of a round. */
  private static final int MOST = 20_000;

  private final ReviewStore store;
  private final SettlingStore settling;
  private final UnattendedDrafts drafts;
  private final EvidenceReader evidence;
  private final KnownItems known;
  private final LiveModel model;
  private final RoundOwners owners;
  private final Notices notices;
  private final TransactionTemplate transactions;
  private final ZoneId zone;

  CarryOut(
      ReviewStore store,
      SettlingStore settling,
      UnattendedDrafts drafts,
      EvidenceReader evidence,
      KnownItems known,
      LiveModel model,
      RoundOwners owners,
      Notices notices,
      TransactionTemplate transactions,
      @Value("${mandala.zone}") ZoneId zone) {
    this.store = store;
    this.settling = settling;
    this.drafts = drafts;
    this.evidence = evidence;
    this.known = known;
    this.model = model;
    this.owners = owners;
    this.notices = notices;
    this.transactions = transactions;
    this.zone = zone;
  }

  /** Whether decisions of a round are to take effect at an instant. */
  private boolean isDue(Round it, Instant now) {
    Instant last = it.course().carriedAt();
    return !it.ends().isAfter(now)
        || switch (it.order().effectOrUsual().carried()) {
          case "at-once" -> true;
          case "daily" ->
              last == null
                  || last.atZone(zone).toLocalDate().isBefore(now.atZone(zone).toLocalDate());
          default -> false;
        };
  }

  /** Carries out what is due in an open round. */
  void run(Round round, Instant now) {
    Run run = new Run(round, now);
    for (String draft : settling.drafts(round.number())) {
      run.proceed(draft, settling.inDraft(round.number(), draft));
    }
    if (isDue(round, now)) {
      List<RoundItem> due = settling.toCarry(round.number(), MOST);
      Map<String, List<RoundItem>> byAccount = new LinkedHashMap<>();
      due.forEach(it ->
          byAccount
              .computeIfAbsent(Objects.requireNonNullElse(it.account(), ""), _ -> new ArrayList<>())
              .add(it));
      byAccount.forEach((account, items) -> {
        for (int i = 0; i < items.size(); i += AT_ONCE) {
          run.carry(account, items.subList(i, Math.min(items.size(), i + AT_ONCE)));
        }
      });
      if (run.heldUp == null && (!due.isEmpty() || round.heldUp() != null)) {
        settling.carried(round.number(), now);
      }
    }
    run.end();
  }

  /** Takes items out of a draft, which is discarded; they are carried out anew. */
  void free(long round, String draft) {
    transactions.executeWithoutResult(_ -> {
      settling.freed(round, draft);
      drafts.discard(draft);
    });
  }

  /**
   * Reverts what a decision changed, with the rights of the round's owner.
   *
   * @throws Problem if it can't be, or waits for somebody
   */
  void revert(Round round, RoundItem it, LiveModel.State state) {
    UnattendedDrafts.Plan plan =
        new UnattendedDrafts.Plan(
            round.owner(),
            "Review “" + round.title() + "”, taken back",
            "Took back the decision about item " + it.number() + " in review " + round.number(),
            "review " + round.number(),
            settling.applied(it).reversed().stream().map(Change::inverse).toList());
    Answer answer = plan.changes().isEmpty() ? new Answer.Discarded() : drafts.hindrance(plan);
    if (answer == null) {
      String draft =
          drafts.isAlive(it.effect().draft())
              ? it.effect().draft() // of an earlier try, which waited
              : transactions.execute(_ -> reverting(it, plan, state));
      answer =
          drafts.proceed(
              Objects.requireNonNull(draft), "review " + round.number() + ", taken back");
    }
    switch (answer) {
      case Answer.Applied _ -> {
        // it is as before
      }
      case Answer.Waits _ ->
          throw Problem.conflict(
              "A second person must approve it first",
              "Ask those who can: the item opens again once the change is applied.");
      default ->
          throw Problem.conflict(
              "The decision took effect, and can't be taken back by itself",
              "Ask whoever runs the round to revert it.");
    }
  }

  private String reverting(RoundItem it, UnattendedDrafts.Plan plan, LiveModel.State state) {
    String draft = drafts.begin(plan, state.revision());
    settling.reverting(it, draft);
    return draft;
  }

  /** {@return whether the model is as an item was decided} */
  static boolean isInForce(RoundItem it, KnownItems known, LiveModel.State of, Instant at) {
    if (it.control() || !it.item().isIn(of.engine().catalogue())) {
      return true;
    }
    return "reduce".equals(it.verdict()) && !known.facts(it.item(), of, at).equals(it.facts());
  }

  /** One run through one round. */
  private final class Run {
    private final Round round;
    private final Instant now;
    private final Map<String, Integer> returned = new HashMap<>();
    private @Nullable String heldUp;
    private int heldUpItems;

    Run(Round round, Instant now) {
      this.round = round;
      this.now = now;
    }

    /**
     * Makes a draft of items of one account, and applies it where it may be. Where something of it
     * is in the way, its halves are tried, so that the rest does not wait for it.
     */
    void carry(String account, List<RoundItem> items) {
      if (heldUpItems >= TRIED) {
        return;
      }
      LiveModel.State state = model.state();
      Engine engine = state.engine();
      CarryPlan plan =
          CarryPlan.of(
              items,
              engine,
              known.of(state, now),
              now,
              it -> evidence.findings(it, engine.catalogue()));
      keep(plan);
      if (plan.changes().isEmpty()) {
        return;
      }
      UnattendedDrafts.Plan draft =
          new UnattendedDrafts.Plan(
              round.owner(),
              "Review “" + round.title() + "”" + in(account, state),
              reason(plan.taken()),
              "review " + round.number(),
              plan.changes());
      Answer hindrance = drafts.hindrance(draft);
      if (hindrance != null && plan.taken().size() > 1) {
        int half = plan.taken().size() / 2;
        carry(account, plan.taken().subList(0, half));
        carry(account, plan.taken().subList(half, plan.taken().size()));
      } else if (hindrance instanceof Answer.HeldUp(String why)) {
        heldUp = why;
        heldUpItems++;
      } else if (hindrance instanceof Answer.Unfit(String why)) {
        giveBack(plan.taken(), why);
      } else {
        make(draft, plan, state);
      }
    }

    /** Keeps what needs no draft, whatever becomes of the one for the others. */
    private void keep(CarryPlan plan) {
      transactions.executeWithoutResult(_ -> {
        plan.settled().forEach(it -> inForce(it, null));
        plan.returned().forEach(this::giveBack);
        if (plan.changes().isEmpty()) {
          plan.taken().forEach(it -> inForce(it, null));
        }
      });
    }

    private void make(UnattendedDrafts.Plan draft, CarryPlan plan, LiveModel.State state) {
      String id;
      try {
        id = transactions.execute(_ -> begin(draft, plan, state));
      } catch (Problem e) {
        heldUp = e.title() + ".";
        return;
      }
      proceed(Objects.requireNonNull(id), plan.taken());
    }

    private String begin(UnattendedDrafts.Plan of, CarryPlan plan, LiveModel.State state) {
      String draft = drafts.begin(of, state.revision());
      settling.waiting(plan, draft);
      return draft;
    }

    private static String in(String account, LiveModel.State state) {
      Account it = state.engine().catalogue().accounts().get(new AccountKey(account));
      return it == null ? "" : ", " + it.about().nameOr(it.key());
    }

    /** By numbers: whom an item is about, and who decided, is for those who may read it. */
    private String reason(List<RoundItem> items) {
      return "Decided in review "
          + round.number()
          + ": "
          + items.stream()
              .map(it -> it.verdict() + " item " + it.number())
              .collect(Collectors.joining(", "));
    }

    /** Applies a draft where it may be, and notes what becomes of its items. */
    void proceed(String draft, List<RoundItem> items) {
      Answer answer = drafts.proceed(draft, "review " + round.number());
      switch (answer) {
        case Answer.Applied(long revision) ->
            transactions.executeWithoutResult(_ -> applied(items, revision));
        case Answer.Waits() -> {
          // until somebody approves
        }
        case Answer.HeldUp(String why) -> heldUp = why;
        case Answer.Unfit(String why) -> {
          free(round.number(), draft);
          if (items.size() > 1) {
            items.forEach(it -> carry(Objects.requireNonNullElse(it.account(), ""), List.of(it)));
          } else {
            giveBack(items, why);
          }
        }
        case Answer.Declined(String because) -> {
          free(round.number(), draft);
          giveBack(items, "A second person declined it: “" + because + "”");
        }
        case Answer.Discarded() -> giveBack(items, "Its draft was discarded");
      }
    }

    private void applied(List<RoundItem> items, long revision) {
      LiveModel.State state = model.state();
      for (RoundItem it : items) {
        if (isInForce(it, known, state, now)) {
          inForce(it, revision);
        } else {
          giveBack(it, "Its draft was changed before it was applied");
        }
      }
    }

    private void inForce(RoundItem it, @Nullable Long revision) {
      settling.settled(it, RoundItem.Outcome.IN_FORCE, revision, null, now);
      note(it, "in-force", revision == null ? null : "revision " + revision);
    }

    private void giveBack(List<RoundItem> items, String why) {
      transactions.executeWithoutResult(_ -> items.forEach(it -> giveBack(it, why)));
    }

    private void giveBack(RoundItem it, String why) {
      settling.returned(it, why);
      note(it, "returned", why);
      if (it.decider() != null) {
        returned.merge(it.decider(), 1, Integer::sum);
      }
    }

    private void note(RoundItem it, String act, @Nullable String said) {
      store.note(
          it.round(), it.number(), new ReviewStore.Act(act, null, now, it.verdict(), said, null));
    }

    /** Sends notices of what happened, once. */
    void end() {
      returned.forEach((who, many) ->
          notices.tell(
              who,
              new Notices.Notice(
                  NoticeKind.REVIEW_RETURNED,
                  (many == 1 ? "1 decision" : many + " decisions")
                      + " of yours in “"
                      + round.title()
                      + "” can't take effect. Decide again.",
                  "/reviews/" + round.number())));
      String why = heldUp;
      if (why != null && !why.equals(round.heldUp())) {
        store.heldUp(round.number(), why);
        owners.tell(
            round.owner(),
            "The review round “" + round.title() + "”",
            "/reviews/" + round.number() + "/round");
      }
    }
  }
}
