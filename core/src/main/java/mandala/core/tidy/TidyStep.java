package mandala.core.tidy;

import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/**
 * Something that can go, and why nothing changes by it.
 *
 * @param changes what is changed, in an order in which each fits the model
 */
public record TidyStep(List<Change> changes, Why why) {

  /** Copies its changes. */
  public TidyStep {
    changes = List.copyOf(changes);
  }

  /** Why a step changes nothing. */
  public sealed interface Why {

    /** What is left of a set, a role or a group comes to the same. */
    record LeftTheSame() implements Why {}

    /**
     * Another assignment gives as much, in as many places, for as long.
     *
     * @param by that one; null where the assignment ended already
     */
    record Covered(@Nullable AssignmentKey by) implements Why {}

    /** Another role gives exactly the same. */
    record Twin(RoleKey kept) implements Why {}

    /** A deny takes nothing from anybody, whatever is switched on. */
    record TakesNothing() implements Why {}

    /**
     * Some things that many are given together come to one role.
     *
     * @param times how many times they were given together
     * @param things how many there are
     */
    record Role(RoleKey role, int times, int things) implements Why {}

    /**
     * What some principals are given one by one is given to a group of them.
     *
     * @param people how many they are
     * @param things how many things they are given
     */
    record Group(GroupKey group, int people, int things) implements Why {}
  }
}
