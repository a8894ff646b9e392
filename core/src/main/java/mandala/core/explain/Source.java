package mandala.core.explain;

import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.BridgeKey;

/** What gives or denies. */
public sealed interface Source {

  /** An assignment. */
  record ByAssignment(AssignmentKey key) implements Source {}

  /** A bridge. */
  record ByBridge(BridgeKey key) implements Source {}
}
