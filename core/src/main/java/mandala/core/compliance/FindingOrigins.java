package mandala.core.compliance;

import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.NavigableSet;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.WindowEdges;

/**
 * Since when findings are there: walks back over the revisions of a model until each is gone. A
 * finding that was resolved and came back counts from its return.
 */
public final class FindingOrigins {

  /** So many edges within one revision are looked at one by one; of more, by halves. */
  private static final int EACH = 16;

  private FindingOrigins() {}

  /**
   * A revision, and the model that it left.
   *
   * @param from when it was made; it was in force until the next one
   */
  public record Stretch(long revision, Instant from, Engine engine) {}

  /**
   * When a finding began.
   *
   * @param revision which was in force then
   * @param byRevision whether the revision began it, not the beginning or end of a window
   */
  public record Beginning(Instant at, long revision, boolean byRevision) {}

  /**
   * {@return when each finding began}; one that is older than all the revisions given began with
   * the oldest of them
   *
   * @param ids names of findings that are there now ({@link Finding#id})
   * @param newestFirst revisions, read only as far as needed; at least one
   */
  public static Map<String, Beginning> of(
      Set<String> ids, Iterator<Stretch> newestFirst, Instant now) {
    return of(ids, newestFirst, now, EACH);
  }

  /**
   * The same, with another bound. By halves a finding that comes and goes several times within one
   * revision may get the beginning of an earlier time.
   */
  static Map<String, Beginning> of(
      Set<String> ids, Iterator<Stretch> newestFirst, Instant now, int each) {
    Map<String, Beginning> began = new HashMap<>();
    Set<String> open = new HashSet<>(ids);
    Instant end = now;
    Beginning last = null;
    while (!open.isEmpty() && newestFirst.hasNext()) {
      Stretch stretch = newestFirst.next();
      if (last == null) {
        last = new Beginning(now, stretch.revision(), false);
      }
      NavigableSet<Instant> all = WindowEdges.of(stretch.engine().catalogue());
      List<Instant> edges =
          stretch.from().isBefore(end)
              ? List.copyOf(all.subSet(stretch.from(), false, end, end.equals(now)).descendingSet())
              : List.of();
      for (Instant edge : edges.size() > each ? halves(edges, open, stretch) : edges) {
        last =
            step(
                open,
                stretch.engine(),
                new Beginning(edge, stretch.revision(), false),
                last,
                began);
      }
      last =
          step(
              open,
              stretch.engine(),
              new Beginning(stretch.from(), stretch.revision(), true),
              last,
              began);
      end = stretch.from();
    }
    for (String id : open) {
      if (last == null) {
        throw new IllegalArgumentException("No revision to look at");
      }
      began.put(id, last);
    }
    return began;
  }

  /** What is not there at a point began at the one looked at before, which is later. */
  private static Beginning step(
      Set<String> open,
      Engine engine,
      Beginning point,
      Beginning later,
      Map<String, Beginning> began) {
    Set<String> there = Findings.among(open, engine, point.at());
    open.removeIf(id -> {
      boolean gone = !there.contains(id);
      if (gone) {
        began.put(id, later);
      }
      return gone;
    });
    return point;
  }

  /**
   * The edges around each change, where a finding changes at most once within the stretch: the
   * newest edge, and for each finding the two between which it begins.
   */
  private static List<Instant> halves(List<Instant> descending, Set<String> open, Stretch stretch) {
    Set<Instant> wanted = new HashSet<>(Set.of(descending.getFirst()));
    Set<String> there = Findings.among(open, stretch.engine(), descending.getFirst());
    for (String id : there) {
      int with = 0;
      int without = descending.size();
      while (without - with > 1) {
        int middle = (with + without) >>> 1;
        boolean is =
            !Findings.among(Set.of(id), stretch.engine(), descending.get(middle)).isEmpty();
        if (is) {
          with = middle;
        } else {
          without = middle;
        }
      }
      wanted.add(descending.get(with));
      if (without < descending.size()) {
        wanted.add(descending.get(without));
      }
    }
    return descending.stream().filter(wanted::contains).toList();
  }
}
