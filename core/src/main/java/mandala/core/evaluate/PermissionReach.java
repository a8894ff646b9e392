package mandala.core.evaluate;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.compiled.space.Spans;
import mandala.core.model.Clause;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.ScopeReach;
import mandala.core.question.Verdict;
import mandala.core.rule.Exposure;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/** Tells on what some permissions may be given by scopes, for nobody in particular. Thread-safe. */
public final class PermissionReach {

  private final Snapshot it;
  private final ScopeExtents extents;

  /** By type: what those of the permissions that apply to it weigh. */
  private final long[] weights;

  /** By lane: their bits. */
  private final long[] bits;

  /** What a scope covers, relative terms left out of their clauses: read once, asked often. */
  public final class Places {
    private final List<CompiledClause> grounds;

    /** Where one of the permissions applies: triples of lane, start and end. */
    private final int[] stretches;

    private Places(List<CompiledClause> grounds) {
      this.grounds = grounds;
      IntList found = new IntList();
      for (int type = 0; type < weights.length; type++) {
        for (int[] span : weights[type] == 0 ? List.<int[]>of() : of(type)) {
          for (int word = 0; word < it.rights.words[type]; word++) {
            int lane = it.rights.offset[type] + word;
            if (bits[lane] != 0 && it.places.count(type, span[0], span[1]) > 0) {
              found.add(lane);
              found.add(span[0]);
              found.add(span[1]);
            }
          }
        }
      }
      stretches = found.toArray();
    }

    private List<int[]> of(int type) {
      return union(grounds, type, 0, it.places.count);
    }

    /** {@return all of it, whatever the type} */
    public Spans spans() {
      Spans.Builder all = new Spans.Builder();
      List<int[]> any = grounds.stream().flatMap(PermissionReach::spans).toList();
      joined(any).forEach(span -> all.add(span[0], span[1], Spans.NO_FLOOR));
      return all.build();
    }
  }

  public PermissionReach(Snapshot it, Collection<PermissionKey> permissions) {
    this.it = it;
    extents = new ScopeExtents(it);
    weights = new long[it.rights.types.size()];
    bits = new long[it.rights.rowLength];
    for (PermissionKey key : permissions) {
      int p = it.rights.permissionId.getOrDefault(key, -1);
      for (int type = 0; p >= 0 && type < weights.length; type++) {
        if (it.rights.bit[type][p] >= 0) {
          int bit = it.rights.bit[type][p];
          weights[type] += Exposure.of(it.rights.permissions.get(p).risk());
          bits[it.rights.offset[type] + (bit >> 6)] |= 1L << bit;
        }
      }
    }
  }

  /**
   * {@return on what the permissions may be given by a scope}; relative terms are left out of their
   * clauses
   *
   * @param within a resource below which alone is looked, null for everywhere
   * @param most how many resources to name
   */
  public ScopeReach of(List<Clause> scope, @Nullable ResourceKey within, int most) {
    int top = within == null ? -1 : it.places.find(within);
    int from = within == null ? 0 : top;
    int to = within == null ? it.places.count : top < 0 ? 0 : it.places.end[top];
    List<CompiledClause> grounds = scope.stream().map(extents::ground).toList();
    int places = 0;
    long exposure = 0;
    List<ResourceKey> first = new ArrayList<>();
    for (int type = 0; top >= 0 == (within != null) && type < weights.length; type++) {
      if (weights[type] == 0) {
        continue;
      }
      for (int[] span : union(grounds, type, from, to)) {
        int many = it.places.count(type, span[0], span[1]);
        places += many;
        exposure += weights[type] * many;
        int[] positions = it.places.ofType[type];
        for (int i = IntList.lowerBound(positions, span[0]);
            first.size() < most && i < positions.length && positions[i] < span[1];
            i++) {
          first.add(it.places.key(positions[i]));
        }
      }
    }
    return new ScopeReach(places, exposure, first);
  }

  /** {@return what a scope covers} */
  public Places places(List<Clause> scope) {
    return new Places(scope.stream().map(extents::ground).toList());
  }

  /** {@return whether somebody's access allows one of the permissions on one of some places} */
  public boolean isAllowed(AccessMap access, Places on) {
    for (int i = 0; i < on.stretches.length; i += 3) {
      int lane = on.stretches[i];
      int type = it.rights.laneType[lane];
      int end = on.stretches[i + 2];
      for (int at = on.stretches[i + 1]; at < end; ) {
        int next = Math.min(end, access.end(lane, at));
        int mask = access.maskAt(lane, at);
        if ((access.allowed(mask) & ~access.denied(mask) & bits[lane]) != 0
            && it.places.count(type, at, next) > 0) {
          return true;
        }
        at = next;
      }
    }
    return false;
  }

  /** {@return every verdict on the permissions on some places by somebody's access} */
  public Set<Verdict> verdicts(AccessMap access, Places on) {
    Set<Verdict> verdicts = EnumSet.noneOf(Verdict.class);
    for (int i = 0; i < on.stretches.length; i += 3) {
      verdicts(access, on.stretches[i], on.stretches[i + 1], on.stretches[i + 2], verdicts);
    }
    return verdicts;
  }

  private void verdicts(AccessMap access, int lane, int from, int to, Set<Verdict> into) {
    int type = it.rights.laneType[lane];
    long wanted = bits[lane];
    int[] rest = {it.places.count(type, from, to)};
    access.runs(
        lane,
        from,
        to,
        (start, end, mask) -> {
          int many = it.places.count(type, start, end);
          if (many > 0) {
            rest[0] -= many;
            long denied = access.denied(mask) & wanted;
            long allowed = access.allowed(mask) & wanted & ~denied;
            long blocked = access.blocked(mask) & wanted & ~denied & ~allowed;
            add(denied, Verdict.DENIED, into);
            add(allowed, Verdict.ALLOWED, into);
            add(blocked, Verdict.BLOCKED, into);
            add(wanted & ~denied & ~allowed & ~blocked, Verdict.NONE, into);
          }
        });
    add(rest[0], Verdict.NONE, into);
  }

  private static void add(long any, Verdict verdict, Set<Verdict> into) {
    if (any != 0) {
      into.add(verdict);
    }
  }

  /** The stretches that some clauses cover for a type, cut to one, each place once. */
  private static List<int[]> union(List<CompiledClause> grounds, int type, int from, int to) {
    List<int[]> all = new ArrayList<>();
    for (CompiledClause ground : grounds) {
      for (int i = 0;
          (ground.type() < 0 || ground.type() == type) && i < ground.spans().size();
          i++) {
        int start = Math.max(from, ground.spans().start[i]);
        int end = Math.min(to, ground.spans().end[i]);
        if (start < end) {
          all.add(new int[] {start, end});
        }
      }
    }
    return joined(all);
  }

  private static Stream<int[]> spans(CompiledClause ground) {
    Spans spans = ground.spans();
    return IntStream.range(0, spans.size()).mapToObj(i -> new int[] {spans.start[i], spans.end[i]});
  }

  /** Stretches in order, those that overlap or touch as one. */
  private static List<int[]> joined(List<int[]> stretches) {
    List<int[]> all = new ArrayList<>(stretches);
    all.sort(Comparator.comparingInt(span -> span[0]));
    List<int[]> union = new ArrayList<>();
    for (int[] span : all) {
      if (!union.isEmpty() && union.getLast()[1] >= span[0]) {
        union.getLast()[1] = Math.max(union.getLast()[1], span[1]);
      } else {
        union.add(span);
      }
    }
    return union;
  }
}
