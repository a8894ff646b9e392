package mandala.core.excess;

import mandala.core.compiled.Snapshot;

/**
 * Which numbers things had in an earlier snapshot; empty where that is the same one. Immutable, for
 * all threads.
 */
final class PastNumbers {

  /** By position now: the position then, or -1. */
  final int[] positions;

  /** By permission now: its number then, or -1. */
  final int[] permissions;

  private PastNumbers(int[] positions, int[] permissions) {
    this.positions = positions;
    this.permissions = permissions;
  }

  @SuppressWarnings("ReferenceEquality") // one snapshot is asked about itself
  static PastNumbers of(Snapshot now, Snapshot then) {
    if (now == then) {
      return new PastNumbers(new int[0], new int[0]);
    }
    int[] positions = new int[now.places.count];
    for (int i = 0; i < positions.length; i++) {
      positions[i] = now.places.isThere(i) ? then.places.find(now.places.key(i)) : -1;
    }
    return new PastNumbers(
        positions,
        now.rights.permissions.stream()
            .mapToInt(it -> then.rights.permissionId.getOrDefault(it.key(), -1))
            .toArray());
  }
}
