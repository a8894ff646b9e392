package mandala.core.evaluate;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.ClauseCompiler;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.model.Clause;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.CoveredResources;
import mandala.core.question.ScopeReach;
import mandala.core.rule.Exposure;
import mandala.core.table.IntList;
import org.jspecify.annotations.Nullable;

/** Tells what scopes cover, for nobody in particular. */
public final class ScopeExtents {

  private final Snapshot it;

  public ScopeExtents(Snapshot it) {
    this.it = it;
  }

  /** {@return the places that a scope covers}, seals aside; relative terms cover what they might */
  public BitSet places(List<Clause> clauses) {
    BitSet covered = new BitSet();
    clauses.forEach(clause -> covered.or(places(ground(clause))));
    return covered;
  }

  private CompiledClause ground(Clause clause) {
    List<Term> fixed = clause.terms().stream().filter(term -> !term.relative()).toList();
    Clause rest =
        fixed.isEmpty() ? Clause.of(new Term.Everything()) : new Clause(List.copyOf(fixed));
    return new ClauseCompiler(it.catalogue, it.places, it.rights).read(rest, -1);
  }

  private BitSet places(CompiledClause ground) {
    BitSet here = new BitSet();
    for (int i = 0; i < ground.spans().size(); i++) {
      here.set(ground.spans().start[i], ground.spans().end[i]);
    }
    here.and(ground.type() < 0 ? there() : ofType(ground.type()));
    return here;
  }

  private BitSet ofType(int type) {
    BitSet typed = new BitSet();
    for (int position : it.places.ofType[type]) {
      typed.set(position);
    }
    return typed;
  }

  private BitSet there() {
    BitSet all = new BitSet();
    for (int type = 0; type < it.rights.types.size(); type++) {
      all.or(ofType(type));
    }
    return all;
  }

  public CoveredResources covered(List<Clause> scope, int most, @Nullable Set<AccountKey> within) {
    scope.forEach(this::requireKnown);
    BitSet covered = new BitSet();
    BitSet reached = new BitSet();
    for (Clause clause : scope) {
      CompiledClause ground = ground(clause);
      BitSet here = places(ground);
      covered.or(here);
      here.stream()
          .filter(at -> {
            int span = ground.spans().find(at);
            return span >= 0 && it.places.seal[at] <= ground.spans().floor[span];
          })
          .forEach(reached::set);
    }
    BitSet all = there();
    if (within != null) {
      BitSet told = of(within);
      covered.and(told);
      reached.and(told);
      all.and(told);
    }
    BitSet sealed = (BitSet) covered.clone();
    sealed.andNot(reached);
    return new CoveredResources(
        covered.cardinality(),
        covered.stream().limit(most).mapToObj(it.places::key).toList(),
        all.cardinality(),
        sealed.cardinality());
  }

  /** The positions of some accounts' own resources. */
  private BitSet of(Set<AccountKey> accounts) {
    BitSet positions = new BitSet();
    for (AccountKey account : accounts) {
      int number = it.catalogue.accounts().number(account);
      if (number >= 0) {
        positions.set(it.places.accountAt[number], it.places.ownEnd[number]);
      }
    }
    return positions;
  }

  /**
   * {@return on what some permissions may be given by a scope}; relative terms are left out of
   * their clauses
   *
   * @param within a resource below which alone is looked, null for everywhere
   * @param most how many resources to name
   */
  public ScopeReach reach(
      List<Clause> scope,
      Collection<PermissionKey> permissions,
      @Nullable ResourceKey within,
      int most) {
    int top = within == null ? -1 : it.places.find(within);
    int from = within == null ? 0 : top;
    int to = within == null ? it.places.count : top < 0 ? 0 : it.places.end[top];
    List<CompiledClause> grounds = scope.stream().map(this::ground).toList();
    int places = 0;
    long exposure = 0;
    List<ResourceKey> first = new ArrayList<>();
    for (int type = 0; top >= 0 == (within != null) && type < it.rights.types.size(); type++) {
      long weight = weight(permissions, type);
      if (weight == 0) {
        continue;
      }
      for (int[] span : union(grounds, type, from, to)) {
        int many = it.places.count(type, span[0], span[1]);
        places += many;
        exposure += weight * many;
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

  /** What those of some permissions that apply to a type weigh. */
  private long weight(Collection<PermissionKey> permissions, int type) {
    long weight = 0;
    for (PermissionKey key : permissions) {
      int p = it.rights.permissionId.getOrDefault(key, -1);
      if (p >= 0 && it.rights.bit[type][p] >= 0) {
        weight += Exposure.of(it.rights.permissions.get(p).risk());
      }
    }
    return weight;
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

  private void requireKnown(Clause clause) {
    for (Term term : clause.terms()) {
      if (!it.catalogue.knows(term)) {
        throw new IllegalArgumentException(
            "There is no '" + term.named() + "'; choose from the list");
      }
    }
  }
}
