package mandala.core.explain;

import mandala.core.model.Key;

/** What gives or denies. */
public sealed interface Source {

  /** An assignment. */
  record ByAssignment(Key.Assignment key) implements Source {}

  /** A bridge. */
  record ByBridge(Key.Bridge key) implements Source {}
}
