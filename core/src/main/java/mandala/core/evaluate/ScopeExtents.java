package mandala.core.evaluate;

import java.util.BitSet;
import java.util.List;
import java.util.Set;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.grants.ClauseCompiler;
import mandala.core.compiled.grants.CompiledClause;
import mandala.core.model.Clause;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.question.CoveredResources;
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

  CompiledClause ground(Clause clause) {
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

  private void requireKnown(Clause clause) {
    for (Term term : clause.terms()) {
      if (!it.catalogue.knows(term)) {
        throw new IllegalArgumentException(
            "There is no '" + term.named() + "'; choose from the list");
      }
    }
  }
}
