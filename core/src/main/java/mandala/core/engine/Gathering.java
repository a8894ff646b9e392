package mandala.core.engine;

import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Gathers what holds for a principal as pieces (sections 4 and 5): the lines of all its subjects
 * that are in force, relative terms read as positions, allows cut to live accounts that it belongs
 * to.
 */
final class Gathering {

  private final Who who;
  private final Snapshot it;
  private final Places places;
  private final Pieces into;
  private final Spans reachable;
  private @Nullable Spans fullUnits;
  private @Nullable Spans viewUnits;
  private @Nullable Spans own;
  private @Nullable Spans team;

  Gathering(Who who, Pieces into) {
    this.who = who;
    this.it = who.it;
    this.places = it.places;
    this.into = into;
    this.reachable = who.reachable();
  }

  /**
   * Adds what is allowed.
   *
   * @param mfa whether a second factor counts
   * @param switchedOn whether what was switched on counts
   */
  void allows(boolean mfa, boolean switchedOn) {
    for (int subject : who.subjects) {
      long[] lines = it.lines(false, subject);
      if (lines != null) {
        Spans cut = Line.kind(subject) == Line.PUBLIC ? it.live : reachable;
        int n = lines.length / 3;
        for (int i = 0; i < n; i++) {
          allow(lines[i], lines[n + i], (int) lines[2 * n + i], cut, mfa, switchedOn);
        }
      }
    }
  }

  private void allow(
      long span, long what, int ref, Spans subjectCut, boolean mfa, boolean switchedOn) {
    int flags = Line.flags(what);
    Given given = it.given.require(Line.given(what));
    if (flags == 0) {
      plain(Line.start(span), Line.end(span), subjectCut, given.row(mfa, false));
      return;
    }
    if ((flags & Line.SPECIAL) != 0
        && ((!switchedOn && who.isJustInTime(ref)) || !who.holds(ref, true))) {
      return;
    }
    Spans cut = (flags & Line.BRIDGE) != 0 ? it.live : subjectCut;
    boolean through = (flags & Line.CROSSES) != 0;
    boolean view = (flags & Line.VIEW) != 0;
    Spans where = where(span, what, flags).and(cut);
    int type = type(what, flags);
    if ((flags & Line.OWN_UNIT) == 0) {
      into.add(where, type, through, false, given.row(mfa, view));
      return;
    }
    into.add(where.and(units(true)), type, through, false, given.row(mfa, view));
    into.add(where.and(units(false)), type, through, false, given.row(mfa, true));
  }

  /** The common case: a stretch that lies in one reachable span. */
  private void plain(int start, int end, Spans cut, long[] row) {
    int i = cut.find(start);
    if (start == end) {
      return;
    }
    if (i >= 0 && end <= cut.end[i]) {
      into.add(start, end, start, -1, false, row);
    } else {
      into.add(Spans.of(start, end, start).and(cut), -1, false, false, row);
    }
  }

  private int type(long what, int flags) {
    return (flags & Line.TYPED) == 0 ? -1 : it.grounds.require(Line.ground(what)).type();
  }

  /** A line's fixed terms, and its relative ones but the own unit. */
  private Spans where(long span, long what, int flags) {
    Spans where =
        Line.ground(what) == 0
            ? Spans.of(Line.start(span), Line.end(span), Line.start(span))
            : it.grounds.require(Line.ground(what)).spans();
    return relative(where, flags);
  }

  private Spans relative(Spans fixed, int flags) {
    Spans where = fixed;
    if ((flags & Line.OWN_ACCOUNT) != 0) {
      where = who.profile == null ? Spans.EMPTY : where.and(places.own(who.profile.home));
    }
    if ((flags & Line.SELF) != 0) {
      where = where.and(own());
    }
    if ((flags & Line.TEAM) != 0) {
      where = where.and(team());
    }
    return where;
  }

  /** Adds what is denied. */
  void denies() {
    for (int subject : who.subjects) {
      long[] lines = it.lines(true, subject);
      if (lines != null) {
        int n = lines.length / 3;
        for (int i = 0; i < n; i++) {
          long what = lines[n + i];
          int flags = Line.flags(what);
          if ((flags & Line.SPECIAL) == 0 || who.holds((int) lines[2 * n + i], false)) {
            Spans where = where(lines[i], what, flags);
            long[] row = it.given.require(Line.given(what)).deny;
            inFull(where, type(what, flags), flags, true, row);
          }
        }
      }
    }
  }

  /** Adds a row wherever a ground covers, seals aside and every reach in full, as an allow. */
  void covered(Ground ground, long[] row) {
    inFull(relative(ground.spans(), ground.flags()), ground.type(), ground.flags(), false, row);
  }

  private void inFull(Spans where, int type, int flags, boolean denying, long[] row) {
    if ((flags & Line.OWN_UNIT) == 0) {
      into.add(where, type, true, denying, row);
      return;
    }
    into.add(where.and(units(true)), type, true, denying, row);
    into.add(where.and(units(false)), type, true, denying, row);
  }

  private Spans own() {
    Spans known = own;
    if (known == null) {
      known =
          who.profile == null
              ? Spans.EMPTY
              : Places.points(places.owned.getOr(who.id, Directory.NONE), _ -> Spans.THROUGH);
      own = known;
    }
    return known;
  }

  /** What the principal owns and what all who report to it do, down all levels. */
  private Spans team() {
    Spans known = team;
    if (known == null) {
      known = who.profile == null ? Spans.EMPTY : ownedByTeam();
      team = known;
    }
    return known;
  }

  private Spans ownedByTeam() {
    int[] open = {who.id};
    int size = 1;
    int[] found = new int[16];
    int many = 0;
    while (size > 0) {
      int next = open[--size];
      int[] owned = places.owned.getOr(next, Directory.NONE);
      if (many + owned.length > found.length) {
        found = Arrays.copyOf(found, Math.max(many + owned.length, found.length * 2));
      }
      System.arraycopy(owned, 0, found, many, owned.length);
      many += owned.length;
      int[] reports = it.directory.reports.getOr(next, Directory.NONE);
      if (size + reports.length > open.length) {
        open = Arrays.copyOf(open, Math.max(size + reports.length, open.length * 2));
      }
      System.arraycopy(reports, 0, open, size, reports.length);
      size += reports.length;
    }
    return Places.points(Places.merged(found, many), _ -> Spans.NO_FLOOR);
  }

  private Spans units(boolean inFull) {
    Spans known = inFull ? fullUnits : viewUnits;
    if (known == null) {
      known = Spans.EMPTY;
      if (who.profile != null) {
        int[] units = inFull ? who.profile.fullUnits : who.profile.viewUnits;
        known = union(Arrays.stream(units).mapToObj(this::inUnit).toList());
      }
      if (inFull) {
        fullUnits = known;
      } else {
        viewUnits = known;
      }
    }
    return known;
  }

  private Spans inUnit(int unit) {
    return places.inUnit.getOr(unit, Spans.EMPTY);
  }

  /** Spans of units are the same or apart where they meet, and share floors. */
  private Spans union(List<Spans> all) {
    if (all.size() <= 1) {
      return all.isEmpty() ? Spans.EMPTY : all.getFirst();
    }
    Ints positions = new Ints();
    for (Spans spans : all) {
      for (int i = 0; i < spans.size(); i++) {
        for (int at = spans.start[i]; at < spans.end[i]; at++) {
          positions.add(at);
        }
      }
    }
    int[] sorted = positions.toArray();
    Arrays.sort(sorted);
    return Places.points(sorted, at -> places.accountAt[places.account[at]]);
  }
}
