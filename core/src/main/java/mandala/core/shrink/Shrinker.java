package mandala.core.shrink;

import java.util.ArrayList;
import java.util.List;
import mandala.core.engine.Engine;
import mandala.core.excess.Excess;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.key.AccountKey;
import mandala.core.question.Impact;
import org.jspecify.annotations.Nullable;

/**
 * Makes a smaller model (section 12): one in which nobody gains, what is needed stays and what is
 * not goes, as far as an order says.
 *
 * <ol>
 *   <li>{@link Obligations}: what must stay, and what gives it. Of the givers few are chosen; the
 *       others go.
 *   <li>{@link Partition}: what is needed of one that stays is given by one or several that give
 *       little else.
 *   <li>Members of groups and guests that need nothing by it leave.
 *   <li>{@link Soundness} judges all of it together; where it is not sound, halves of it, down to
 *       single moves. What is not sound is left out.
 * </ol>
 */
public final class Shrinker {

  /** Rounds of taking away what became needless by what was trimmed. */
  private static final int ROUNDS = 3;

  /** Assignments, members and guests of models that are also looked through one by one. */
  private static final int SMALL = 120;

  private final Engine then;
  private final ShrinkOrder order;
  private final Soundness soundness;
  private final Contents contents;
  private final int assignmentsBefore;
  private final Acceptance accepted;

  private Shrinker(Engine before, Engine then, ShrinkOrder order, Soundness soundness) {
    this.then = then;
    this.order = order;
    this.soundness = soundness;
    contents = new Contents(before.catalogue());
    assignmentsBefore = before.catalogue().assignments().size();
    accepted = new Acceptance(before, soundness, contents, order.window().at());
  }

  /**
   * What came of it, in exposure over all principals, {@code anonymous} included.
   *
   * @param model the smaller model, the same one where nothing could go
   * @param before what all had
   * @param after what they have by the smaller model
   * @param floor what they need, and what is young
   * @param steps in an order in which each fits the model that the one before left
   */
  public record Answer(
      AccessModel model, long before, long after, long floor, List<ShrinkStep> steps) {
    /** Copies its steps. */
    public Answer {
      steps = List.copyOf(steps);
    }

    /** {@return how much of the way from what all had to what they need was gone}, from 0 to 1 */
    public double reached() {
      return before == floor ? 1 : (double) (before - after) / (before - floor);
    }
  }

  /**
   * {@return a smaller model that is sound}
   *
   * @param then the engine of the model in force when the window began: the same where there is no
   *     other
   * @param watch told how far it is, and asked whether to go on; broken off, it gives what was
   *     trimmed by then
   * @throws IllegalStateException if the smaller model is not sound: nothing is given then
   */
  public static Answer of(Engine engine, Engine then, ShrinkOrder order, Impact.Watch watch) {
    ExcessStudy study = engine.excess(then, order.use(), order.window());
    Shrinker shrinker =
        new Shrinker(engine, then, order, new Soundness(engine, study, order, false));
    shrinker.run(watch);
    if (!shrinker.soundness.holdsFromTheFirst(shrinker.accepted.now())) {
      // something begins later: all again, each move held to every edge and everybody
      shrinker = new Shrinker(engine, then, order, new Soundness(engine, study, order, true));
      shrinker.run(watch);
      if (!shrinker.soundness.holdsFromTheFirst(shrinker.accepted.now())) {
        throw new IllegalStateException("Impossible state: a smaller model is not sound");
      }
    }
    long all = 0;
    long floor = 0;
    for (Excess it : study.of(study.everybody())) {
      all += it.exposure();
      floor += it.exposure() - it.excessExposure();
    }
    AccessModel model = shrinker.accepted.now().catalogue().model();
    return new Answer(
        model,
        all,
        shrinker.accepted.steps().isEmpty() ? all : shrinker.exposure(),
        floor,
        shrinker.accepted.steps());
  }

  /**
   * {@return the account to which belongs what is made to narrow an assignment}, null where it is
   * shared
   */
  public static @Nullable AccountKey ownerOfMade(Assignment it, Catalogue catalogue) {
    AccountKey of = Contents.ownerOf(it.gives(), catalogue);
    return of == null ? catalogue.homeOf(it.subject()) : of;
  }

  private long exposure() {
    return exposure(accepted.now());
  }

  private long exposure(Engine engine) {
    ExcessStudy study = engine.excess(engine, Use.NONE, order.window());
    return study.of(study.everybody()).stream().mapToLong(Excess::exposure).sum();
  }

  private void run(Impact.Watch watch) {
    boolean narrows = order.tight() > 0;
    int rounds = accepted.now().catalogue().assignments().size() > SMALL ? ROUNDS - 1 : ROUNDS;
    for (int round = 0; round < rounds; round++) {
      if (!watch.goOn(round, ROUNDS + 1)) {
        return;
      }
      int found = accepted.steps().size();
      round(narrows && round == 0);
      if (accepted.steps().size() == found) {
        break;
      }
    }
    if (watch.goOn(ROUNDS, ROUNDS + 1)) {
      polish();
    }
  }

  private Round known() {
    return new Round(accepted.now(), then, order, soundness);
  }

  private Narrowing narrowing(Round round) {
    return new Narrowing(round, accepted.now(), order, contents, assignmentsBefore);
  }

  private void round(boolean narrows) {
    Round round = known();
    Narrowing before = narrowing(round);
    List<Move> ends = new ArrayList<>();
    List<Assignment> staying = new ArrayList<>();
    for (Assignment it : round.catalogue.assignments().values()) {
      int giver = round.giver(it);
      if (round.fixed.get(giver)) {
        continue;
      }
      if (round.obligations.stays(giver)) {
        staying.add(it);
      } else {
        ends.add(
            new Move.EndAssignment(
                it, round.unneeded(giver), narrows ? before.insteadOfEnding(it) : List.of()));
      }
    }
    for (Bridge it : round.catalogue.bridges().values()) {
      int giver = round.giver(it);
      if (!round.fixed.get(giver) && !round.obligations.stays(giver)) {
        ends.add(new Move.EndBridge(it, round.unneeded(giver)));
      }
    }
    accepted.acceptAll(ends);
    accepted.lookForDenies();
    accepted.acceptAll(new Leaving(round, order.window().at()).moves());
    if (narrows) {
      accepted.acceptAll(narrowing(round).moves(staying));
    }
  }

  /** Tries each single move on a model that is small: then none is left that is sound and tells. */
  private void polish() {
    int moves =
        accepted.now().catalogue().assignments().size()
            + accepted.now().catalogue().guests().size()
            + accepted.now().catalogue().groups().values().stream()
                .mapToInt(it -> it.members().size())
                .sum();
    if (moves > SMALL) {
      return;
    }
    boolean found = true;
    while (found) {
      found = false;
      accepted.lookForDenies();
      for (Move move : singles()) {
        Acceptance.Tried tried = accepted.tried(List.of(move));
        if (tried.verdict().sound() && exposure(tried.after()) < exposure()) {
          accepted.take(List.of(move), tried.after());
          found = true;
          break;
        }
      }
    }
  }

  private List<Move> singles() {
    Round round = known();
    List<Move> moves = new ArrayList<>();
    for (Assignment it : round.catalogue.assignments().values()) {
      int giver = round.giver(it);
      if (!round.fixed.get(giver)) {
        ShrinkStep.Why unneeded = round.unneeded(giver);
        moves.add(new Move.EndAssignment(it, unneeded, List.of()));
        if (order.tight() > 0) {
          contents
              .lesser(contents.of(it))
              .forEach(less ->
                  moves.add(
                      new Move.Give(
                          it,
                          less,
                          new ShrinkStep.Why.Narrowed(
                              round.holders.getOrDefault(giver, List.of()).size(),
                              round
                                  .chosen
                                  .cells
                                  .getOrDefault(giver, new Cells())
                                  .people()
                                  .size()))));
        }
      }
    }
    for (Bridge it : round.catalogue.bridges().values()) {
      if (!round.fixed.get(round.giver(it))) {
        moves.add(new Move.EndBridge(it, round.unneeded(round.giver(it))));
      }
    }
    moves.addAll(new Leaving(round, order.window().at()).all());
    return moves;
  }
}
