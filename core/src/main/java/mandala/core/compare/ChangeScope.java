package mandala.core.compare;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.directory.Profile;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.space.ResourceChangeLog;
import mandala.core.compiled.space.ResourceSpace;
import mandala.core.compiled.space.ResourceSpaceEdit;
import mandala.core.compiled.space.Spans;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.Ranges;
import mandala.core.evaluate.SegmentCollector;
import mandala.core.evaluate.Segments;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Thing;
import org.jspecify.annotations.Nullable;

/**
 * Where, and in which lanes, a principal's access may differ between two snapshots of which the
 * later came of the earlier by changes: the rest need not be swept.
 *
 * <ol>
 *   <li>{@link #of} goes through the subjects that the principal has before or after. One that came
 *       or went counts with all its grant entries ({@link #whole}), one that stayed with those that
 *       changed or that give something else than before ({@link #changed}).
 *   <li>{@link #joined} puts these together: positions and lanes. Most people whom a change touches
 *       share the same few subjects, so this is kept by what was put together.
 *   <li>{@link #own} adds what grant entries with relative terms cover for this principal.
 * </ol>
 *
 * <p>Invariant: outside of the reach, before and after are the same. What is below a place that was
 * sealed or unsealed is in everybody's reach, with all lanes ({@link #sealed}). Where something
 * else changed than grant entries, what is given and seals (places, units, activations, reports),
 * the reach is everything. Cost: two dozen look-ups a principal; once for each subject its grant
 * entries. Thread-safe.
 */
final class ChangeScope {

  /** What may differ: positions, and lanes as folded by {@link Rights#fold}. */
  static final class Reach {
    final Spans where;
    final long lanes;

    /** Everywhere, so that nothing is gained by asking where. */
    private final boolean everywhere;

    Reach(Spans where, long lanes, boolean everywhere) {
      this.where = where;
      this.lanes = lanes;
      this.everywhere = everywhere;
    }

    boolean isEmpty() {
      return where.size() == 0 || lanes == 0;
    }

    /** {@return the places as a snapshot has them}, null where they are all */
    @Nullable Ranges ranges(Snapshot it) {
      return everywhere ? null : new Ranges(it, where);
    }
  }

  /**
   * Grant entries that differ: the positions of those that are the same for everybody, and the
   * others.
   */
  private static final class Part {
    private final BitSet fixed = new BitSet();
    private final List<Relative> relative = new ArrayList<>();
    private long lanes;

    /** Something that differs is a gate of something elsewhere. */
    private boolean gates;
  }

  /** A grant entry that covers something else for each principal. */
  private record Relative(Snapshot it, long span, long what) {}

  private final Snapshot before;
  private final Snapshot after;
  private final boolean comparable;

  /** What lies at or below seals that came or went; null where nothing of the kind changed. */
  private final @Nullable BitSet sealed;

  private final Set<Integer> touched = new HashSet<>();
  private final Map<Integer, Part> changed = new ConcurrentHashMap<>();
  private final Map<Integer, Part> whole = new ConcurrentHashMap<>();
  private final Map<List<Part>, Part> joined = new ConcurrentHashMap<>();
  private final Reach everything;

  ChangeScope(Snapshot before, Snapshot after, List<Change> changes) {
    this.before = before;
    this.after = after;
    comparable = before.grantIds == after.grantIds && samePlaces() && sameReports();
    sealed = !samePlaces() && before.grantIds == after.grantIds && sameReports() ? sealed() : null;
    everything =
        new Reach(
            Spans.of(0, Math.max(before.places.count, after.places.count), Spans.NO_FLOOR),
            SegmentCollector.ALL_LANES,
            true);
    for (Change change : changes) {
      change.things().forEach(this::touch);
    }
  }

  private void touch(Thing thing) {
    for (Snapshot it : List.of(before, after)) {
      int number =
          switch (thing) {
            case Assignment assignment -> it.catalogue.assignments().number(assignment.key());
            case Bridge bridge -> it.catalogue.bridges().number(bridge.key());
            default -> -1;
          };
      if (number >= 0) {
        touched.add(thing instanceof Bridge ? ~number : number);
      }
    }
  }

  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private boolean samePlaces() {
    return before.placeLog == after.placeLog;
  }

  /**
   * {@return the positions that changed, where nothing but seals did}, else null. A seal is noted
   * with all below it ({@link ResourceSpaceEdit#run}), and nothing else can differ by it (section
   * 4).
   */
  private @Nullable BitSet sealed() {
    ResourceSpace was = before.places;
    ResourceSpace is = after.places;
    long known = before.placeLog.head();
    if (was.count != is.count
        || was.node.length != is.node.length
        || after.placeLog.forgottenUpTo() > known
        || !after.placeLog.goesOnFrom(before.placeLog)) {
      return null;
    }
    BitSet changed = new BitSet();
    for (ResourceChangeLog.Entry entry : after.placeLog.entries()) {
      if (entry.number() > known) {
        changed.set(entry.from(), entry.to());
      }
    }
    boolean only = changed.stream().allMatch(at -> at < was.count && was.isSameButForSeal(is, at));
    return only ? changed : null;
  }

  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private boolean sameReports() {
    return before.directory.reports == after.directory.reports;
  }

  /** {@return where a principal's access may differ}; it is there before and after */
  Reach of(PrincipalAtInstant was, PrincipalAtInstant is) {
    if ((!comparable && sealed == null) || !isAlike(was, is)) {
      return everything;
    }
    int[] first = was.subjects.clone();
    int[] second = is.subjects.clone();
    Arrays.sort(first);
    Arrays.sort(second);
    List<Part> parts = new ArrayList<>();
    int i = 0;
    int j = 0;
    while (i < first.length || j < second.length) {
      boolean goes = j == second.length || (i < first.length && first[i] < second[j]);
      boolean comes = i == first.length || (j < second.length && second[j] < first[i]);
      int subject = comes ? second[j] : first[i];
      Part part = goes || comes ? whole(subject) : changed(subject);
      if (part.lanes != 0) {
        parts.add(part);
      }
      i += comes ? 0 : 1;
      j += goes ? 0 : 1;
    }
    Part all = joined.computeIfAbsent(parts, ChangeScope::joined);
    BitSet where = all.fixed;
    if (!all.relative.isEmpty()) {
      where = (BitSet) where.clone();
      own(all.relative, was, is, where);
    }
    if (all.gates) {
      where = withGated(where);
    }
    long lanes = before.rights.withGates(all.lanes, all.gates);
    if (sealed != null) {
      where = (BitSet) where.clone();
      where.or(sealed);
      lanes = SegmentCollector.ALL_LANES;
    }
    return where.cardinality() > before.places.count / 2
        ? new Reach(everything.where, lanes, true)
        : new Reach(Ranges.runs(where), lanes, false);
  }

  /** Places with all below them: a gate lies at or above what it gates (section 6). */
  private BitSet withGated(BitSet where) {
    BitSet all = new BitSet();
    for (int at = where.nextSetBit(0); at >= 0; at = where.nextSetBit(at + 1)) {
      all.set(at, before.places.end[at]);
    }
    return all;
  }

  private static void own(
      List<Relative> lines, PrincipalAtInstant was, PrincipalAtInstant is, BitSet into) {
    SegmentCollector first = new SegmentCollector(was, new Segments());
    SegmentCollector second = new SegmentCollector(is, new Segments());
    for (Relative line : lines) {
      boolean past = line.it().number == was.it.number;
      set((past ? first : second).where(line.span(), line.what()), into);
    }
  }

  private static void set(Spans where, BitSet into) {
    for (int i = 0; i < where.size(); i++) {
      into.set(where.start[i], where.end[i]);
    }
  }

  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private boolean isAlike(PrincipalAtInstant was, PrincipalAtInstant is) {
    Profile one = was.profile;
    Profile other = is.profile;
    return one != null
        && other != null
        && one.principal == other.principal
        && one.enabled == other.enabled
        && was.it.catalogue.links().guests(was.id) == is.it.catalogue.links().guests(is.id)
        && was.it.catalogue.links().activations(was.id)
            == is.it.catalogue.links().activations(is.id);
  }

  /** All grant entries of a subject that somebody has only before or only after. */
  private Part whole(int subject) {
    return whole.computeIfAbsent(
        subject,
        _ -> {
          Part part = new Part();
          for (Snapshot it : List.of(before, after)) {
            add(part, it, it.lines(false, subject), _ -> true);
            add(part, it, it.lines(true, subject), _ -> true);
          }
          return part;
        });
  }

  /** Grant entries of a subject that are not the same before and after. */
  private Part changed(int subject) {
    return changed.computeIfAbsent(
        subject,
        _ -> {
          Part part = new Part();
          for (Snapshot it : List.of(before, after)) {
            add(part, it, it.lines(false, subject), this::isOther);
            add(part, it, it.lines(true, subject), this::isOther);
          }
          return part;
        });
  }

  /** A grant entry by its three numbers. */
  private record Numbered(int ref, int given, int ground) {}

  /**
   * {@return whether what a principal has before and after can be told apart grant entry by grant
   * entry}
   */
  boolean isComparable(PrincipalAtInstant was, PrincipalAtInstant is) {
    return comparable && isAlike(was, is);
  }

  /** {@return whether a grant entry of a subject that stayed may give otherwise than before} */
  boolean isOther(int ref, int given, int ground) {
    return isOther(new Numbered(ref, given, ground));
  }

  /** It came or went, was touched (its window, say), or gives or covers something else. */
  @SuppressWarnings("ReferenceEquality") // what did not change is the very same
  private boolean isOther(Numbered line) {
    return touched.contains(line.ref())
        || (before.given != after.given
            && before.given.get(line.given()) != after.given.get(line.given()))
        || (before.grounds != after.grounds
            && before.grounds.get(line.ground()) != after.grounds.get(line.ground()));
  }

  private void add(Part part, Snapshot it, long @Nullable [] lines, Predicate<Numbered> which) {
    int n = lines == null ? 0 : lines.length / 3;
    for (int i = 0; i < n && lines != null; i++) {
      int given = GrantEntry.given(lines[n + i]);
      int ground = GrantEntry.ground(lines[n + i]);
      if (which.test(new Numbered((int) lines[2 * n + i], given, ground))) {
        for (Snapshot side : List.of(before, after)) {
          if (side.given.get(given) != null) {
            part.lanes |= side.rows.lanes(given);
            part.gates |= side.rights.hasFarGate(side.given.require(given).all);
            part.gates |= side.rights.hasFarGate(side.given.require(given).deny);
          }
        }
        if ((GrantEntry.flags(lines[i]) & GrantEntry.RELATIVE) != 0) {
          part.relative.add(new Relative(it, lines[i], lines[n + i]));
        } else if (ground == 0) {
          part.fixed.set(GrantEntry.start(lines[i]), GrantEntry.end(lines[i]));
        } else {
          set(it.grounds.require(ground).spans(), part.fixed);
        }
      }
    }
  }

  private static Part joined(List<Part> parts) {
    Part all = new Part();
    for (Part part : parts) {
      all.lanes |= part.lanes;
      all.gates |= part.gates;
      all.fixed.or(part.fixed);
      all.relative.addAll(part.relative);
    }
    return all;
  }
}
