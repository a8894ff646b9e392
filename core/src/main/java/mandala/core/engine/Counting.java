package mandala.core.engine;

import java.util.function.IntPredicate;
import org.jspecify.annotations.Nullable;

/** Counts people's rights one after the other in the same memory; for one thread. */
final class Counting {

  private final Pieces pieces = new Pieces();
  private final Sweep sweep;

  Counting(Snapshot it) {
    sweep = new Sweep(it);
  }

  /** {@return the number of rights of an active principal for itself} */
  long rights(Who who, boolean mfa) {
    pieces.clear();
    Gathering gathering = new Gathering(who, pieces);
    gathering.allows(mfa, true);
    gathering.denies();
    return sweep.count(pieces);
  }

  /** {@return the sheet of an active principal for itself, right within some places only} */
  Sheet within(Who who, boolean mfa, Ranges ranges) {
    return within(who, mfa, ranges, Gathering.ALL_LANES);
  }

  /**
   * {@return the sheet of an active principal for itself, right within some places and lanes only}
   *
   * @param ranges null for all places
   * @param lanes folded; far gates of a lane must be among them
   */
  Sheet within(Who who, boolean mfa, @Nullable Ranges ranges, long lanes) {
    pieces.clear();
    Gathering gathering = new Gathering(who, pieces, ranges, lanes);
    gathering.allows(mfa, true);
    gathering.denies();
    if (pieces.count == 0) {
      return Sheet.EMPTY;
    }
    sweep.run(pieces, lanes);
    return new Sheet(who.it, sweep.runs, null);
  }

  /**
   * {@return what some assignments and bridges alone give an active principal}, denies and gates
   * aside; good until the next question
   *
   * @param refs of which lines, as {@link Line} numbers them
   */
  Runs given(Who who, boolean mfa, @Nullable Ranges ranges, long lanes, IntPredicate refs) {
    pieces.clear();
    new Gathering(who, pieces, ranges, lanes, refs).allows(mfa, true);
    sweep.run(pieces, lanes);
    return sweep.runs;
  }
}
