package mandala.core.compiled;

import mandala.core.compiled.directory.TimeSpan;
import mandala.core.compiled.rights.EffectiveRights;
import org.jspecify.annotations.Nullable;

/** A delegation in numbers: to whom, when, what it passes on and where (section 7). */
public final class CompiledDelegation {

  public final int delegate;
  public final TimeSpan times;

  /** What its limit lists, by number; null for all that may be delegated. */
  private final int @Nullable [] given;

  public final int[] grounds;

  CompiledDelegation(int delegate, TimeSpan times, int @Nullable [] given, int[] grounds) {
    this.delegate = delegate;
    this.times = times;
    this.given = given;
    this.grounds = grounds;
  }

  /** {@return what may be passed on}: delegable, and within the limit */
  public long[] row(Snapshot it) {
    if (given == null) {
      return it.rights.delegableRow;
    }
    long[] limit = new long[it.rights.rowLength];
    for (int each : given) {
      long[] all = it.given.require(each).all;
      for (int lane = 0; lane < limit.length; lane++) {
        limit[lane] |= all[lane];
      }
    }
    return EffectiveRights.and(it.rights.delegableRow, limit);
  }
}
