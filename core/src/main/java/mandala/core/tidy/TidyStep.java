package mandala.core.tidy;

import java.util.List;
import mandala.core.change.Change;
import mandala.core.model.key.AssignmentKey;
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
  }
}
