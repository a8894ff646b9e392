package mandala.core.evaluate;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.function.IntPredicate;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.directory.PrincipalSets;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.compiled.rights.EffectiveRightsReader;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Subject;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/**
 * Which assignments and bridges may bear on a permission on a resource: what routes are looked for
 * among. More than do; none that does is missing. In the model's order.
 *
 * @param allowing what gives the permission there to some of the subjects, or would if no role were
 *     retired, whether or not it is in force; with all bridges into the account that give it,
 *     offered ones too
 * @param denying what denies it there to some of the subjects
 */
public record CandidateGrants(Grants allowing, Grants denying) {

  /** Assignments and bridges, each once, in the model's order. */
  public record Grants(List<Assignment> assignments, List<Bridge> bridges) {
    /** Copies its lists. */
    public Grants {
      assignments = List.copyOf(assignments);
      bridges = List.copyOf(bridges);
    }
  }

  /**
   * What gives a permission on a resource to others only.
   *
   * @param assignments those of the first few clauses, from the resource upwards
   * @param more how many clauses more there are
   */
  public record Others(List<Assignment> assignments, int more) {
    /** Copies its list. */
    public Others {
      assignments = List.copyOf(assignments);
    }
  }

  public static CandidateGrants of(
      Snapshot it, Collection<Subject> subjects, int permission, int at) {
    IntList allowing = new IntList();
    IntList denying = new IntList();
    long[] givers = it.rows.bits(permission, false, true);
    long[] deniers = it.rows.bits(permission, true, true);
    for (int code : codes(it, subjects)) {
      own(
          it.lines(false, code),
          at,
          given -> PrincipalSets.has(givers, given) || it.given.require(given).retired,
          allowing);
      own(it.lines(true, code), at, given -> PrincipalSets.has(deniers, given), denying);
    }
    Grants allows = grants(it, allowing);
    return new CandidateGrants(
        new Grants(allows.assignments(), bridges(it, givers, at)), grants(it, denying));
  }

  private static int[] codes(Snapshot it, Collection<Subject> subjects) {
    return subjects.stream().mapToInt(subject -> GrantEntry.code(subject, it.catalogue)).toArray();
  }

  private static void own(long @Nullable [] lines, int at, IntPredicate counts, IntList refs) {
    int n = lines == null ? 0 : lines.length / 3;
    for (int i = 0; i < n && lines != null; i++) {
      boolean spans = GrantEntry.start(lines[i]) <= at && at < GrantEntry.end(lines[i]);
      boolean may =
          spans || (GrantEntry.flags(lines[i]) & GrantEntry.RELATIVE) != 0; // cut to its home
      if (may && counts.test(GrantEntry.given(lines[n + i]))) {
        refs.add((int) lines[2 * n + i]);
      }
    }
  }

  private static List<Bridge> bridges(Snapshot it, long[] givers, int at) {
    List<Bridge> bridges = new ArrayList<>();
    for (Bridge bridge : it.catalogue.bridges().values()) {
      int target = it.catalogue.accounts().require(bridge.account());
      if (it.directory.isAtOrBelow(it.places.account[at], target)) {
        int given = it.grantIds.knownGiven(new EffectiveRightsReader.Name(bridge.gives(), false));
        EffectiveRights known =
            given < 0 ? null : it.given.get(given); // an offered bridge has no grant entries
        if (known == null || known.retired || PrincipalSets.has(givers, given)) {
          bridges.add(bridge);
        }
      }
    }
    return bridges;
  }

  /** {@return what gives it to others}, from the resource upwards; single principals left out */
  public static Others others(
      Snapshot it, Collection<Subject> subjects, int permission, int at, int most) {
    int[] own = codes(it, subjects);
    Arrays.sort(own);
    long[] givers = it.rows.bits(permission, false, true);
    List<Assignment> named = new ArrayList<>();
    int all = 0;
    for (int up = at; up >= 0; up = it.places.parent[up]) {
      IntList refs = new IntList();
      others(it.allowAt.get(up), own, givers, at, refs);
      all += refs.size();
      name(it, refs, most, named);
    }
    IntList refs = new IntList();
    it.anchors.forEach(
        it.places,
        it.unitParents,
        at,
        number -> {
          CompiledClause ground = it.grounds.get(number);
          if (ground != null && ground.test(at, it.places.type[at])) {
            others(it.allowOf.get(number), own, givers, at, refs);
          }
        });
    all += refs.size();
    name(it, refs, most, named);
    return new Others(named.stream().distinct().toList(), Math.max(0, all - named.size()));
  }

  /** Those of one place stand in the order of their keys, however the snapshot came about. */
  private static void name(Snapshot it, IntList refs, int most, List<Assignment> named) {
    if (named.size() < most) {
      Arrays.stream(refs.toArray())
          .mapToObj(ref -> it.catalogue.assignments().the(ref))
          .sorted(Comparator.comparing(assignment -> assignment.key().value()))
          .limit(most - named.size())
          .forEach(named::add);
    }
  }

  private static void others(
      long @Nullable [] list, int[] own, long[] givers, int at, IntList refs) {
    int n = list == null ? 0 : list.length / 3;
    for (int i = 0; i < n && list != null; i++) {
      int subject = (int) (list[i] >>> 32);
      int ref = (int) list[n + i];
      if (ref >= 0
          && at < GrantEntry.end(list[2 * n + i])
          && GrantEntry.kind(subject) != GrantEntry.PRINCIPAL
          && PrincipalSets.has(givers, (int) list[i])
          && Arrays.binarySearch(own, subject) < 0) {
        refs.add(ref);
      }
    }
  }

  private static Grants grants(Snapshot it, IntList refs) {
    int[] sorted = Arrays.stream(refs.toArray()).sorted().distinct().toArray();
    return new Grants(
        Arrays.stream(sorted)
            .filter(ref -> ref >= 0)
            .mapToObj(ref -> it.catalogue.assignments().the(ref))
            .toList(),
        Arrays.stream(sorted)
            .filter(ref -> ref < 0)
            .map(ref -> ~ref)
            .sorted()
            .mapToObj(ref -> it.catalogue.bridges().the(ref))
            .toList());
  }
}
