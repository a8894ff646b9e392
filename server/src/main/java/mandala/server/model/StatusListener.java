package mandala.server.model;

import java.util.List;
import mandala.core.model.Principal;
import org.jspecify.annotations.Nullable;

/**
 * Hears of principals that come, or whose status changes, in the revision's transaction: what they
 * have outside of the model begins or ends with it. Of an imported model only who is there before
 * and after is heard of.
 */
public interface StatusListener {

  /**
   * Somebody whose status is another than before.
   *
   * @param before null where they come
   */
  record StatusChange(@Nullable Principal before, Principal after) {

    /** {@return whether they are now what they were not before} */
    public boolean became(Principal.Status status) {
      return after.status() == status && (before == null || before.status() != status);
    }
  }

  /** Some statuses changed. */
  void changed(List<StatusChange> changes);
}
