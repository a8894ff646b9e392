package mandala.server.reconcile;

import java.util.List;
import mandala.core.reconcile.Discrepancy;
import org.jspecify.annotations.Nullable;

/**
 * A discrepancy as it is kept.
 *
 * @param first number of the comparison that found it
 * @param gone number of the first that lacked it, null while it stands
 * @param held what the system holds of it, in its terms
 */
record KeptDiscrepancy(Discrepancy it, int first, @Nullable Integer gone, List<String> held) {

  /** Copies its list. */
  KeptDiscrepancy {
    held = List.copyOf(held);
  }

  /** {@return whether it stood at a comparison} */
  boolean stoodAt(int number) {
    return first <= number && (gone == null || gone > number);
  }
}
