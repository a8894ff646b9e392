package mandala.core.shrink;

import java.util.List;
import java.util.function.Supplier;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Guest;
import mandala.core.model.Subject;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;

/** A change that may make a model smaller, made on whatever model the moves before left. */
sealed interface Move {

  void into(ChangeBatch batch);

  ShrinkStep.Why why();

  /** {@return whose access it changes} */
  Subject subject();

  /** {@return what to try where this is not sound}, none where there is nothing else */
  default List<Move> instead() {
    return List.of();
  }

  /** An assignment goes, and its activations. */
  record EndAssignment(Assignment it, ShrinkStep.Why why, List<Move> instead) implements Move {
    public EndAssignment {
      instead = List.copyOf(instead);
    }

    @Override
    public Subject subject() {
      return it.subject();
    }

    @Override
    public void into(ChangeBatch batch) {
      if (it.mode() == Assignment.Mode.JUST_IN_TIME) {
        batch.from().activations().stream()
            .filter(each -> each.assignment().equals(it.key()))
            .forEach(batch::remove);
      }
      batch.remove(it);
    }
  }

  /** A bridge goes. */
  record EndBridge(Bridge it, ShrinkStep.Why why) implements Move {
    @Override
    public Subject subject() {
      return new Subject.OfGroup(it.group());
    }

    @Override
    public void into(ChangeBatch batch) {
      batch.remove(it);
    }
  }

  /** One member leaves a group. */
  record Leave(GroupKey group, Group.Member member, ShrinkStep.Why why) implements Move {
    @Override
    public Subject subject() {
      return switch (member) {
        case Group.Member.OfPrincipal(var kind, var key) -> new Subject.OfPrincipal(kind, key);
        case Group.Member.OfGroup(var key) -> new Subject.OfGroup(key);
      };
    }

    @Override
    public void into(ChangeBatch batch) {
      batch.leave(group, member);
    }
  }

  /** A guest membership ends. */
  record EndGuest(Guest it, Subject subject, ShrinkStep.Why why) implements Move {
    @Override
    public void into(ChangeBatch batch) {
      if (batch.from().guests().contains(it)) {
        batch.remove(it);
      }
    }
  }

  /** One assignment that comes for another. */
  record Part(Subject subject, Gives gives, NarrowScope.Scopes scopes) {}

  /**
   * An assignment gives less, or several that give less come for it.
   *
   * @param parts one keeps the key: the first one to the old subject, else the first
   */
  record Narrow(
      Assignment it,
      List<Part> parts,
      Contents contents,
      ShrinkStep.Why why,
      Supplier<List<Move>> otherwise)
      implements Move {
    public Narrow {
      parts = List.copyOf(parts);
    }

    @Override
    public Subject subject() {
      return it.subject();
    }

    @Override
    public List<Move> instead() {
      return otherwise.get();
    }

    @Override
    public void into(ChangeBatch batch) {
      Part keeping =
          parts.stream()
              .filter(part -> part.subject().equals(it.subject()))
              .findFirst()
              .orElse(null);
      if (keeping == null) {
        batch.remove(it);
      }
      for (Part part : parts) {
        contents.ensure(part.gives(), batch);
        if (part.equals(keeping)) {
          batch.alter(it, assignment(it.key(), it.about(), part));
          keeping = null;
        } else {
          batch.ensure(assignment(key(batch), About.NONE, part));
        }
      }
    }

    private AssignmentKey key(ChangeBatch batch) {
      String stem = Contents.withoutMark(it.key().value());
      AssignmentKey key = new AssignmentKey(stem + Contents.MARK);
      for (int n = 2; batch.isTaken(key); n++) {
        key = new AssignmentKey(stem + Contents.MARK + "-" + n);
      }
      batch.take(key);
      return key;
    }

    private Assignment assignment(AssignmentKey key, About about, Part part) {
      return new Assignment(
          key,
          about,
          part.subject(),
          part.gives(),
          Assignment.Effect.ALLOW,
          part.scopes().scope(),
          part.scopes().viewScope(),
          it.window(),
          it.mode(),
          it.crossesSeals());
    }
  }

  /** An assignment gives something else that gives less. */
  record Give(Assignment it, Gives less, ShrinkStep.Why why) implements Move {
    @Override
    public Subject subject() {
      return it.subject();
    }

    @Override
    public void into(ChangeBatch batch) {
      batch.alter(it, Rewritten.gives(it, less));
    }
  }
}
