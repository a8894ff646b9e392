package mandala.core.evaluate;

import java.util.Arrays;
import java.util.BitSet;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.space.Spans;
import org.jspecify.annotations.Nullable;

/**
 * Tells where a principal may be allowed something at an instant that it was not allowed at an
 * earlier one, in one snapshot: where a grant entry has begun that allows or one has ended that
 * denies, and below, for it may open a gate there. Everywhere else as much was allowed before, or
 * more.
 */
public final class Begun {

  private final PrincipalAtInstant now;
  private final PrincipalAtInstant before;
  private final Snapshot it;
  private final BitSet where = new BitSet();

  private Begun(PrincipalAtInstant now, PrincipalAtInstant before) {
    this.now = now;
    this.before = before;
    it = now.it;
  }

  /**
   * {@return where it may be}, as spans that name nothing
   *
   * @param now active
   * @param before the same principal, earlier
   */
  public static Spans since(PrincipalAtInstant now, PrincipalAtInstant before) {
    if (!before.active || !Arrays.equals(now.subjects, before.subjects)) {
      return Spans.of(0, now.it.places.count, Spans.NO_FLOOR);
    }
    Begun begun = new Begun(now, before);
    begun.gather();
    return Ranges.runs(begun.where);
  }

  private void gather() {
    SegmentCollector places = new SegmentCollector(now, new Segments());
    for (int subject : now.subjects) {
      gather(it.lines(false, subject), now, before, true, places);
      gather(it.lines(true, subject), before, now, false, places);
    }
  }

  /**
   * Adds where those entries cover anything that hold for one and not for the other.
   *
   * @param switched whether just-in-time ones must be activated
   */
  private void gather(
      long @Nullable [] lines,
      PrincipalAtInstant holding,
      PrincipalAtInstant not,
      boolean switched,
      SegmentCollector places) {
    int n = lines == null ? 0 : lines.length / 3;
    for (int i = 0; i < n && lines != null; i++) {
      int flags = GrantEntry.flags(lines[i]);
      int ref = (int) lines[2 * n + i];
      boolean mustBeOn = switched && (flags & GrantEntry.JUST_IN_TIME) != 0;
      if ((flags & GrantEntry.SPECIAL) != 0
          && holding.holds(ref, mustBeOn)
          && !not.holds(ref, mustBeOn)) {
        Spans spans = places.where(lines[i], lines[n + i]);
        for (int s = 0; s < spans.size(); s++) {
          add(spans.start[s], spans.end[s]);
        }
      }
    }
  }

  /** Adds a stretch and all that is below anything in it. */
  private void add(int start, int end) {
    int to = end;
    for (int up = end - 1; up >= start; up = it.places.parent[up]) {
      to = Math.max(to, it.places.end[up]);
    }
    where.set(start, to);
  }
}
