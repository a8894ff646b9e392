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
  private final Clock clock;

  ReviewSetup(
      ReviewStore store, RoundFigures figures, EventRules rules, RoundBuild build, Clock clock) {
    this.store = store;
    this.figures = figures;
    this.rules = rules;
    this.build = build;
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
          "never");
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
          it, new DecisionDesk.Kept(verdict, reason, null, List.of(), it.facts()), reviewer, at);
      store.note(
          round, it.number(), new ReviewStore.Act("decided", reviewer, at, verdict, reason, null));
    }
  }

  /** Closes a round in which everybody decided as it was recommended. */
  public void close(long round, Instant at) {
    for (String reviewer : figures.progress(round).keySet()) {
      if (!reviewer.isEmpty()) {
        decide(round, reviewer, Integer.MAX_VALUE, at.minus(Duration.ofDays(3)));
        store.itemsOf(round, reviewer).forEach(store::done);
      }
    }
    store.ended(round, Round.State.CLOSED, null, at);
  }
}
