package mandala.core.evaluate;

import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntPredicate;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.Spans;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * Gathers what holds for a principal as segments (sections 4 and 5): the grant entries of all its
 * subjects that are in force, relative terms read as positions, allows cut to live accounts that it
 * belongs to.
 */
public final class SegmentCollector {

  public static final long ALL_LANES = -1;

  private final PrincipalAtInstant who;
  private final Snapshot it;
  private final ResourceSpace places;
  private final Segments into;
  private final Spans reachable;
  private @Nullable Spans fullUnits;
  private @Nullable Spans viewUnits;
  private @Nullable Spans own;
  private @Nullable Spans team;

  /** The places to look at, or null for all. */
  private final @Nullable Ranges ranges;

  /** The lanes to look at, folded. */
  private final long lanes;

  private final IntPredicate refs;

  public SegmentCollector(PrincipalAtInstant who, Segments into) {
    this(who, into, null, ALL_LANES);
  }

  /**
   * Gathers what matters at some places and in some lanes.
   *
   * @param ranges null for all places
   * @param lanes folded as by {@link Rights#fold}
   */
  public SegmentCollector(
      PrincipalAtInstant who, Segments into, @Nullable Ranges ranges, long lanes) {
    this(who, into, ranges, lanes, _ -> true);
  }

  /**
   * Gathers what some grant entries give.
   *
   * @param refs whether a grant entry counts, by its number of an assignment or a bridge
   */
  public SegmentCollector(
      PrincipalAtInstant who,
      Segments into,
      @Nullable Ranges ranges,
      long lanes,
      IntPredicate refs) {
    this.refs = refs;
    this.ranges = ranges;
    this.lanes = lanes;
    this.who = who;
    this.it = who.it;
    this.places = it.places;
    this.into = into;
    this.reachable = who.reachable();
  }

  /**
   * Adds what is allowed. Grant entries of the same compiled clause are joined before they are read
   * as positions: many groups give something on one's own records, and these are the same records.
   *
   * @param mfa whether a second factor counts
   * @param switchedOn whether what was switched on counts
   */
  void allows(boolean mfa, boolean switchedOn) {
    int refused = switchedOn ? 0 : GrantEntry.JUST_IN_TIME;
    long[] @Nullable [] lists = new long[who.subjects.length][];
    for (int s = 0; s < lists.length; s++) {
      lists[s] = it.lines(false, who.subjects[s]);
    }
    Joined joined = new Joined();
    for (int s = 0; s < lists.length; s++) {
      long[] lines = lists[s];
      if (lines != null) {
        boolean open = GrantEntry.kind(who.subjects[s]) == GrantEntry.PUBLIC;
        Spans cut = open ? it.live : reachable;
        int n = lines.length / 3;
        for (int i = 0; i < n; i++) {
          long span = lines[i];
          int given = GrantEntry.given(lines[n + i]);
          if (isElsewhere(span) || isAside(given) || !refs.test((int) lines[2 * n + i])) {
            continue;
          }
          int flags = GrantEntry.flags(span);
          if (flags == 0) {
            plain(span, cut, it.rows.array(given, false, mfa), it.rows.offset(given));
          } else if ((flags & refused) == 0
              && ((flags & GrantEntry.SPECIAL) == 0
                  || who.holds((int) lines[2 * n + i], (flags & GrantEntry.JUST_IN_TIME) != 0))) {
            joined.add(span, lines[n + i], open, mfa);
          }
        }
      }
    }
    joined.flush();
  }

  /** Whether what is given has nothing in the lanes to look at. */
  private boolean isAside(int given) {
    return lanes != ALL_LANES && (it.rows.lanes(given) & lanes) == 0;
  }

  private boolean isElsewhere(long span) {
    return ranges != null && !ranges.meets(GrantEntry.start(span), GrantEntry.end(span));
  }

  /** What of some places is to be looked at. */
  private Spans here(Spans where) {
    return ranges == null ? where : where.and(ranges.withAbove);
  }

  /** The common case: a stretch that lies in one reachable span. */
  private void plain(long span, Spans cut, long[] array, int offset) {
    int start = GrantEntry.start(span);
    int end = GrantEntry.end(span);
    if (start == end) {
      return; // a compiled clause that covers nothing
    }
    int i = cut.size() == 1 && cut.start[0] <= start ? 0 : cut.find(start);
    if (ranges == null && i >= 0 && end <= cut.end[i]) {
      into.add(start, end, start, -1, false, array, offset);
    } else {
      Spans where = here(Spans.of(start, end, start).and(cut));
      into.add(places, where, -1, false, new Segments.Gift(array, offset, false, false));
    }
  }

  /** Grant entries by where they hold, joined into one row each. */
  private final class Joined {
    private final Map<Where, Row> rows = new HashMap<>();

    /** Ground and span say where; the rest what cuts it. */
    private record Where(int ground, long span, boolean live) {}

    /** One thing's row as it is, or the join of several in an array of its own. */
    private static final class Row {
      long[] array;
      int offset;
      boolean view;
      boolean own;

      Row(long[] array, int offset, boolean view) {
        this.array = array;
        this.offset = offset;
        this.view = view;
      }
    }

    void add(long span, long what, boolean open, boolean mfa) {
      int flags = GrantEntry.flags(span);
      int given = GrantEntry.given(what);
      boolean view = (flags & GrantEntry.VIEW) != 0;
      boolean live = open || (flags & GrantEntry.BRIDGE) != 0;
      int kept = flags & (GrantEntry.RELATIVE | GrantEntry.ASK_GROUND | GrantEntry.CROSSES);
      long place = GrantEntry.span(GrantEntry.start(span), GrantEntry.end(span), kept);
      long[] array = it.rows.array(given, false, mfa);
      int offset = it.rows.offset(given);
      Where where = new Where(GrantEntry.ground(what), place, live);
      Row known = rows.get(where);
      if (known == null) {
        rows.put(where, new Row(array, offset, view));
        return;
      }
      if (!known.own) {
        long[] own = new long[it.rights.rowLength];
        join(own, known.array, known.offset, known.view);
        known.array = own;
        known.offset = 0;
        known.view = false;
        known.own = true;
      }
      join(known.array, array, offset, view);
    }

    private void join(long[] own, long[] array, int offset, boolean view) {
      for (int lane = 0; lane < own.length; lane++) {
        own[lane] |= view ? array[offset + lane] & it.rights.viewRow[lane] : array[offset + lane];
      }
    }

    void flush() {
      rows.forEach((where, row) -> {
        int flags = GrantEntry.flags(where.span());
        Spans cut = where.live() ? it.live : reachable;
        Spans spans = here(where(where.span(), where.ground(), flags).and(cut));
        int type = type(where.ground(), flags);
        boolean through = (flags & GrantEntry.CROSSES) != 0;
        Segments.Gift gift = new Segments.Gift(row.array, row.offset, row.view, false);
        if ((flags & GrantEntry.OWN_UNIT) == 0) {
          into.add(places, spans, type, through, gift);
          return;
        }
        into.add(places, spans.and(units(true)), type, through, gift);
        Segments.Gift viewed = new Segments.Gift(row.array, row.offset, true, false);
        into.add(places, spans.and(units(false)), type, through, viewed);
      });
    }
  }

  private int type(int ground, int flags) {
    return (flags & GrantEntry.TYPED) == 0 ? -1 : it.grounds.require(ground).type();
  }

  /** {@return where a grant entry can cover anything for the principal}, seals aside */
  public Spans where(long span, long what) {
    int flags = GrantEntry.flags(span);
    Spans spans = where(span, GrantEntry.ground(what), flags);
    if ((flags & GrantEntry.OWN_UNIT) == 0) {
      return spans;
    }
    BitSet both = new BitSet();
    for (Spans units : List.of(units(true), units(false))) {
      Spans some = spans.and(units);
      for (int i = 0; i < some.size(); i++) {
        both.set(some.start[i], some.end[i]);
      }
    }
    return Ranges.runs(both);
  }

  /** A grant entry's fixed terms, and its relative ones but the own unit. */
  private Spans where(long span, int ground, int flags) {
    Spans where =
        ground == 0
            ? Spans.of(GrantEntry.start(span), GrantEntry.end(span), GrantEntry.start(span))
            : it.grounds.require(ground).spans();
    return relative(where, flags);
  }

  private Spans relative(Spans fixed, int flags) {
    Spans where = fixed;
    if ((flags & GrantEntry.OWN_ACCOUNT) != 0) {
      where = who.profile == null ? Spans.EMPTY : where.and(places.own(who.profile.home));
    }
    if ((flags & GrantEntry.SELF) != 0) {
      where = where.and(own());
    }
    if ((flags & GrantEntry.TEAM) != 0) {
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
          int ground = GrantEntry.ground(lines[n + i]);
          int given = GrantEntry.given(lines[n + i]);
          int flags = GrantEntry.flags(lines[i]);
          if (isElsewhere(lines[i]) || isAside(given)) {
            continue;
          }
          if ((flags & GrantEntry.SPECIAL) == 0 || who.holds((int) lines[2 * n + i], false)) {
            Segments.Gift gift =
                new Segments.Gift(
                    it.rows.array(given, true, false), it.rows.offset(given), false, true);
            inFull(here(where(lines[i], ground, flags)), type(ground, flags), flags, gift);
          }
        }
      }
    }
  }

  /**
   * Adds a row wherever a compiled clause covers, seals aside and every reach in full, as an allow.
   */
  void covered(CompiledClause ground, long[] row) {
    Spans where = relative(ground.spans(), ground.flags());
    Segments.Gift gift = new Segments.Gift(row, 0, false, false);
    inFull(where, ground.type(), ground.flags(), gift);
  }

  private void inFull(Spans where, int type, int flags, Segments.Gift gift) {
    if ((flags & GrantEntry.OWN_UNIT) == 0) {
      into.add(places, where, type, true, gift);
      return;
    }
    into.add(places, where.and(units(true)), type, true, gift);
    into.add(places, where.and(units(false)), type, true, gift);
  }

  private Spans own() {
    Spans known = own;
    if (known == null) {
      known =
          who.profile == null
              ? Spans.EMPTY
              : ResourceSpace.points(
                  places.owned.getOr(who.id, Directory.NONE), _ -> Spans.THROUGH);
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
    return ResourceSpace.points(ResourceSpace.merged(found, many), _ -> Spans.NO_FLOOR);
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
    IntList positions = new IntList();
    for (Spans spans : all) {
      for (int i = 0; i < spans.size(); i++) {
        for (int at = spans.start[i]; at < spans.end[i]; at++) {
          positions.add(at);
        }
      }
    }
    int[] sorted = positions.toArray();
    Arrays.sort(sorted);
    return ResourceSpace.points(sorted, at -> places.accountAt[places.account[at]]);
  }
}
