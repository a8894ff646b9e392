package mandala.core.evaluate;

import java.util.function.IntPredicate;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.GrantEntry;
import org.jspecify.annotations.Nullable;

/** Counts people's rights one after the other in the same memory; for one thread. */
public final class RightsCounter {

  private final Segments pieces = new Segments();
  private final Sweep sweep;

  public RightsCounter(Snapshot it) {
    sweep = new Sweep(it);
  }

  /** {@return the number of rights of an active principal for itself} */
  public long rights(PrincipalAtInstant who, boolean mfa) {
    pieces.clear();
    SegmentCollector gathering = new SegmentCollector(who, pieces);
    gathering.allows(mfa, true);
    gathering.denies();
    return sweep.count(pieces);
  }

  /** {@return the access map of an active principal for itself} */
  public AccessMap accessMap(PrincipalAtInstant who, boolean mfa) {
    return within(who, mfa, null, SegmentCollector.ALL_LANES);
  }

  /** {@return the access map of an active principal for itself, right within some places only} */
  public AccessMap within(PrincipalAtInstant who, boolean mfa, Ranges ranges) {
    return within(who, mfa, ranges, SegmentCollector.ALL_LANES);
  }

  /**
   * {@return the access map of an active principal for itself, right within some places and lanes
   * only}
   *
   * @param ranges null for all places
   * @param lanes folded; far gates of a lane must be among them
   */
  public AccessMap within(
      PrincipalAtInstant who, boolean mfa, @Nullable Ranges ranges, long lanes) {
    pieces.clear();
    SegmentCollector gathering = new SegmentCollector(who, pieces, ranges, lanes);
    gathering.allows(mfa, true);
    gathering.denies();
    if (pieces.count == 0) {
      return AccessMap.EMPTY;
    }
    sweep.run(pieces, lanes);
    return new AccessMap(who.it, sweep.runs, null);
  }

  /**
   * {@return what some assignments and bridges alone give an active principal}, denies and gates
   * aside; good until the next question
   *
   * @param refs of which grant entries, as {@link GrantEntry} numbers them
   */
  public Intervals given(
      PrincipalAtInstant who, boolean mfa, @Nullable Ranges ranges, long lanes, IntPredicate refs) {
    pieces.clear();
    new SegmentCollector(who, pieces, ranges, lanes, refs).allows(mfa, true);
    sweep.run(pieces, lanes);
    return sweep.runs;
  }
}
