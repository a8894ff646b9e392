package mandala.server.review;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import mandala.server.model.LiveModel;
import org.springframework.stereotype.Service;

/** Makes rounds and rules without anybody at a screen: of the demo. */
@Service
public class ReviewSetup {

  private final ReviewStore store;
  private final RoundFigures figures;
  private final EventRules rules;
  private final RoundBuild build;
  private final SettlingStore settling;
  private final RoundCloser closer;
  private final ReportDesk signer;
  private final Clock clock;

  ReviewSetup(
      ReviewStore store,
      RoundFigures figures,
      EventRules rules,
      RoundBuild build,
      SettlingStore settling,
      RoundCloser closer,
      ReportDesk signer,
      Clock clock) {
    this.store = store;
    this.figures = figures;
    this.rules = rules;
    this.build = build;
    this.settling = settling;
    this.closer = closer;
    this.signer = signer;
    this.clock = clock;
  }

  /**
   * What a round asks, and whom.
   *
   * @param deciders words of who decides, the first who is there
   * @param owner key of who runs it
   */
  public record Plan(
      String title,
      List<String> contents,
      List<String> accounts,
      String risk,
      List<String> deciders,
      Instant begins,
      Instant ends,
      int controls,
      String owner) {

    private RoundOrder order() {
      return new RoundOrder(
          title,
          contents,
          accounts,
          null,
          risk,
          "all",
          List.of(),
          List.of(new RoundOrder.RoundStage(deciders)),
          begins,
          ends,
          true,
          controls,
          "never",
          RoundOrder.RoundEffect.USUAL);
    }
  }

  /** {@return whether there is no round yet} */
  public boolean isEmpty() {
    return store.rounds().isEmpty();
  }

  /** {@return the number of a round that is planned} */
  public long plan(Plan it, Instant now) {
    return store.add(it.order(), it.owner(), Round.State.PLANNED, now, null);
  }

  /** Makes a rule that begins a small round where somebody moves. */
  public void watchMoves(
      String title,
      List<String> accounts,
      List<String> deciders,
      String owner,
      LiveModel.State of) {
    rules.add(
        new EventRule(
            title,
            "moved",
            accounts,
            "low",
            14,
            List.of(new RoundOrder.RoundStage(deciders)),
            7,
            true),
        owner,
        of.revision(),
        clock.instant());
  }

  /** {@return the number of a round that is open} */
  public long begin(Plan it, LiveModel.State state, Instant now) {
    List<RoundItem> items = build.items(it.order(), state, now, (_, _) -> true);
    long number = store.add(it.order(), it.owner(), Round.State.MAKING, it.begins(), null);
    store.write(number, items);
    store.opened(number, state.revision());
    return number;
  }

  /**
   * Decides some items of a reviewer as it is recommended, one after the other.
   *
   * @param most how many
   * @param first when the first was decided
   */
  public void decide(long round, String reviewer, int most, Instant first) {
    int n = 0;
    for (RoundItem it : store.itemsOf(round, reviewer)) {
      if (n >= most) {
        return;
      }
      String verdict = "remove".equals(it.recommended()) ? "remove" : "keep";
      String reason = verdict.equals("keep") ? "Needed for the work" : null;
      Instant at = first.plus(Duration.ofSeconds(95L * n++));
      store.decide(
          it,
          new DecisionDesk.Kept(verdict, reason, null, List.of(), it.facts(), null),
          reviewer,
          at);
      store.note(
          round, it.number(), new ReviewStore.Act("decided", reviewer, at, verdict, reason, null));
    }
  }

  /**
   * Closes a round in which everybody decided as it was recommended; its owner answers for what was
   * to go, and signs.
   *
   * @param said how
   */
  public void close(long number, String said, LiveModel.State state, Instant at) {
    for (String reviewer : figures.progress(number).keySet()) {
      if (!reviewer.isEmpty()) {
        decide(number, reviewer, Integer.MAX_VALUE, at.minus(Duration.ofDays(3)));
        for (RoundItem it : store.itemsOf(number, reviewer)) {
          store.done(it);
          if (!"keep".equals(it.verdict())) {
            settling.settled(it, RoundItem.Outcome.ANSWERED, null, said, at);
          }
        }
      }
    }
    store.ended(number, Round.State.CLOSED, null, at);
    Round round = store.round(number).orElseThrow();
    closer.report(round, state, at);
    signer.signAsItsOwner(round, state, at.plus(Duration.ofHours(2)));
  }
}
