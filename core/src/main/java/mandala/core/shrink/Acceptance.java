package mandala.core.shrink;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Subject;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;

/**
 * Makes moves on a model as far as they are sound: all at once where they are, else those that do
 * not concern the people for whom they are not, and halves of the rest, down to single moves.
 */
final class Acceptance {

  private final Soundness soundness;
  private final Contents contents;
  private final Instant at;
  private final List<ShrinkStep> steps = new ArrayList<>();
  private Engine now;
  private Set<GroupKey> denying = Set.of();

  Acceptance(Engine before, Soundness soundness, Contents contents, Instant at) {
    this.soundness = soundness;
    this.contents = contents;
    this.at = at;
    now = before;
  }

  /** {@return the model after all that was accepted} */
  Engine now() {
    return now;
  }

  /** {@return what was accepted}, in its order */
  List<ShrinkStep> steps() {
    return steps;
  }

  /**
   * Looks again by which groups somebody is denied something: to be called where grants changed.
   */
  void lookForDenies() {
    denying = denying();
  }

  /** Those that only take away are judged faster: they go by themselves. */
  void acceptAll(List<Move> moves) {
    accept(moves.stream().filter(this::onlyTakes).toList());
    accept(moves.stream().filter(it -> !onlyTakes(it)).toList());
  }

  private void accept(List<Move> moves) {
    if (moves.isEmpty()) {
      return;
    }
    Tried tried = tried(moves);
    if (tried.verdict().sound()) {
      take(moves, tried.after());
      return;
    }
    if (moves.size() == 1) {
      for (Move instead : moves.getFirst().instead()) {
        Tried other = tried(List.of(instead));
        if (other.verdict().sound()) {
          take(List.of(instead), other.after());
          return;
        }
      }
      return;
    }
    List<Move> others = notConcerning(moves, tried.verdict().people());
    if (!others.isEmpty() && others.size() < moves.size()) {
      accept(others);
      List<Move> rest = new ArrayList<>(moves);
      rest.removeAll(new HashSet<>(others));
      halves(rest);
    } else {
      halves(moves);
    }
  }

  private void halves(List<Move> moves) {
    if (moves.size() == 1) {
      accept(moves);
    } else {
      accept(moves.subList(0, moves.size() / 2));
      accept(moves.subList(moves.size() / 2, moves.size()));
    }
  }

  /** Maximum number of failing people by which a batch is split. */
  private static final int MOST_BLAMED = 50;

  /** Moves that change nothing for some people. */
  private List<Move> notConcerning(List<Move> moves, List<PrincipalKey> people) {
    List<PrincipalKey> blamed = people.subList(0, Math.min(MOST_BLAMED, people.size()));
    List<Predicate<Subject>> have = blamed.stream().map(it -> now.subjectsOf(it, at)).toList();
    return moves.stream()
        .filter(move -> {
          Subject subject = move.subject();
          return have.stream().noneMatch(it -> it.test(subject));
        })
        .toList();
  }

  /** A model after some moves, and how it is judged. */
  record Tried(Engine after, Soundness.Verdict verdict) {}

  Tried tried(List<Move> moves) {
    List<Change> changes = changes(moves, now.catalogue());
    if (changes.isEmpty()) {
      return new Tried(now, Soundness.Verdict.UNSOUND);
    }
    try {
      Engine next = now.after(changes);
      boolean takesOnly = moves.stream().allMatch(this::onlyTakes);
      return new Tried(next, soundness.judge(now, next, changes, takesOnly));
    } catch (IllegalArgumentException _) {
      return new Tried(now, Soundness.Verdict.UNSOUND); // it leaves a model with a fault
    }
  }

  /**
   * Whether a move takes away nothing but what allows. An assignment that is narrowed does so by
   * construction, which is proved again of all of it in the end.
   */
  private boolean onlyTakes(Move move) {
    return switch (move) {
      case Move.EndAssignment end -> contents.of(end.it()).deny().isEmpty();
      case Move.EndBridge end -> contents.of(end.it().gives(), false).deny().isEmpty();
      case Move.Narrow narrow ->
          !soundness.isCareful() && contents.of(narrow.it()).deny().isEmpty();
      case Move.Leave leave -> !soundness.isCareful() && !denying.contains(leave.group());
      case Move.Give _, Move.EndGuest _ -> false;
    };
  }

  /** The groups by which somebody is denied something, by themselves or a group around them. */
  private Set<GroupKey> denying() {
    Set<GroupKey> some = new HashSet<>();
    for (Assignment it : now.catalogue().assignments().values()) {
      if (it.subject() instanceof Subject.OfGroup(GroupKey key)
          && !contents.of(it).deny().isEmpty()) {
        some.add(key);
      }
    }
    for (Bridge it : now.catalogue().bridges().values()) {
      if (!contents.of(it.gives(), false).deny().isEmpty()) {
        some.add(it.group());
      }
    }
    Set<GroupKey> all = new HashSet<>();
    Round.within(now.catalogue())
        .forEach((group, around) -> {
          if (around.stream().anyMatch(some::contains)) {
            all.add(group);
          }
        });
    return all;
  }

  private static List<Change> changes(List<Move> moves, Catalogue from) {
    ChangeBatch batch = new ChangeBatch(from);
    moves.forEach(it -> it.into(batch));
    return batch.changes();
  }

  /** Each move becomes a step of its own, on the model after the steps before. */
  void take(List<Move> moves, Engine next) {
    Catalogue last = now.catalogue();
    for (Move move : moves) {
      List<Change> changes = changes(List.of(move), last);
      if (!changes.isEmpty()) {
        steps.add(new ShrinkStep(changes, move.why()));
        last = Draft.of(changes).appliedUnchecked(last);
      }
    }
    now = next;
  }
}
