package mandala.core.engine;

import java.util.Collection;
import java.util.List;
import java.util.TreeSet;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Subject;

/**
 * Which assignments and bridges may bear on a permission on a resource: what routes are looked for
 * among. More than do; none that does is missing.
 *
 * @param allowing what some of the subjects have there, whatever it gives and whether or not it is
 *     in force, and what gives the permission there to anybody else; all bridges, offered ones too,
 *     for there are few; in the model's order
 * @param denying what denies some of the subjects something there
 */
public record Bearing(Grants allowing, Grants denying) {

  /** Assignments and bridges, each once, in the model's order. */
  public record Grants(List<Assignment> assignments, List<Bridge> bridges) {
    /** Copies its lists. */
    public Grants {
      assignments = List.copyOf(assignments);
      bridges = List.copyOf(bridges);
    }
  }

  static Bearing of(
      Snapshot it, Collection<Subject> subjects, int permission, int at, boolean othersToo) {
    TreeSet<Integer> allowing = new TreeSet<>();
    TreeSet<Integer> denying = new TreeSet<>();
    for (Subject subject : subjects) {
      int code = Line.code(subject, it.catalogue);
      own(it.lines(false, code), at, allowing);
      own(it.lines(true, code), at, denying);
    }
    if (othersToo) {
      long[] givers = it.rows.bits(permission, false, true);
      for (int up = at; up >= 0; up = it.places.parent[up]) {
        others(it.allowAt.get(up), givers, at, allowing);
      }
      it.anchors.forEach(
          it.places,
          it.unitParents,
          at,
          number -> {
            Ground ground = it.grounds.get(number);
            if (ground != null && ground.test(at, it.places.type[at])) {
              others(it.allowOf.get(number), givers, at, allowing);
            }
          });
    }
    Grants allows = grants(it, allowing);
    List<Bridge> bridges = List.copyOf(it.catalogue.bridges().values());
    return new Bearing(new Grants(allows.assignments(), bridges), grants(it, denying));
  }

  private static void own(
      long @org.jspecify.annotations.Nullable [] lines, int at, TreeSet<Integer> refs) {
    int n = lines == null ? 0 : lines.length / 3;
    for (int i = 0; i < n && lines != null; i++) {
      boolean spans = Line.start(lines[i]) <= at && at < Line.end(lines[i]);
      if (spans || (Line.flags(lines[i]) & Line.RELATIVE) != 0) {
        refs.add((int) lines[2 * n + i]);
      }
    }
  }

  private static void others(
      long @org.jspecify.annotations.Nullable [] list,
      long[] givers,
      int at,
      TreeSet<Integer> refs) {
    int n = list == null ? 0 : list.length / 3;
    for (int i = 0; i < n && list != null; i++) {
      if (at < Line.end(list[2 * n + i])
          && Line.kind((int) (list[i] >>> 32)) != Line.PRINCIPAL
          && People.has(givers, (int) list[i])) {
        refs.add((int) list[n + i]);
      }
    }
  }

  private static Grants grants(Snapshot it, TreeSet<Integer> refs) {
    return new Grants(
        refs.tailSet(0).stream().map(ref -> it.catalogue.assignments().the(ref)).toList(),
        refs.headSet(0, false).descendingSet().stream()
            .map(ref -> it.catalogue.bridges().the(~ref))
            .toList());
  }
}
