package mandala.core.shrink;

import java.util.List;
import mandala.core.change.Change;

/**
 * Something that was trimmed, and why it is safe.
 *
 * @param changes what is changed; they fit the model that the steps before left
 */
public record ShrinkStep(List<Change> changes, Why why) {

  /** Copies its changes. */
  public ShrinkStep {
    changes = List.copyOf(changes);
  }

  /** Why something may go. */
  public sealed interface Why {

    /**
     * None of those who have it needs anything of it.
     *
     * @param people how many have it
     */
    record NobodyNeedsIt(int people) implements Why {}

    /**
     * All that anybody needs of it, something else gives them too.
     *
     * @param people how many keep what they need by something else
     */
    record KeptOtherwise(int people) implements Why {}

    /**
     * What is left of it is what those who have it need.
     *
     * @param people how many have it
     * @param needing how many of them need something of it
     */
    record Narrowed(int people, int needing) implements Why {}

    /** One who is no longer in the group, or no longer a guest, needs nothing of what that gave. */
    record NothingByIt() implements Why {}
  }
}
