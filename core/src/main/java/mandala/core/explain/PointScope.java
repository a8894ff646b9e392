package mandala.core.explain;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Principal;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.rule.ScopeCoverage;
import mandala.core.rule.Seals;
import org.jspecify.annotations.Nullable;

/**
 * By which clause scopes cover one resource for one principal, and what stands against an allow
 * there (section 4).
 */
public final class PointScope {

  private final Catalogue catalogue;
  private final ResourceKey resource;
  private final ScopeCoverage coverage;

  /**
   * Looks at one resource for one principal, none for anonymous.
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public PointScope(Catalogue catalogue, @Nullable Principal principal, ResourceKey resource) {
    this.catalogue = catalogue;
    this.resource = resource;
    this.coverage = ScopeCoverage.of(resource, principal, catalogue);
  }

  /** What a clause makes of the resource: covered, with these obstacles for an allow. */
  public record Fit(Coverage coverage, List<Obstacle> obstacles) {
    /** Copies its obstacles. */
    public Fit {
      obstacles = List.copyOf(obstacles);
    }
  }

  /**
   * {@return the clause by which an assignment covers the resource for an allow}, of those with the
   * fewest obstacles the first, clauses of the scope before those of the view scope; null where
   * none covers it
   *
   * @param view whether the permission is of class view, so that the view scope counts too
   */
  public @Nullable Fit allowing(Assignment it, boolean view) {
    AccountKey home = ScopeCoverage.homeOf(it.subject(), catalogue);
    Fit best = best(it.scope(), false, home, view, it.crossesSeals());
    Fit other = view ? best(it.viewScope(), true, home, true, it.crossesSeals()) : null;
    boolean better =
        best == null || (other != null && other.obstacles().size() < best.obstacles().size());
    return better ? other : best;
  }

  /**
   * {@return the clause by which a bridge covers the resource for an allow}, null where none does
   *
   * @param view whether the permission is of class view
   */
  public @Nullable Fit allowing(Bridge it, boolean view) {
    return best(it.scope(), false, null, view, false);
  }

  /** {@return whether an assignment's denies hold on the resource}: seals make no difference */
  public boolean denies(Assignment it) {
    AccountKey home = ScopeCoverage.homeOf(it.subject(), catalogue);
    return it.scope().stream().anyMatch(clause -> coverage.covers(clause) && !strays(clause, home));
  }

  /** {@return whether a clause of a scope covers the resource}, whatever else there is */
  public boolean covers(List<Clause> scope) {
    return coverage.covers(scope);
  }

  /** {@return whether a term covers the resource} */
  public boolean covers(Term term) {
    return coverage.covers(term);
  }

  private @Nullable Fit best(
      List<Clause> scope,
      boolean viewScope,
      @Nullable AccountKey home,
      boolean view,
      boolean throughSeals) {
    Fit best = null;
    for (int i = 0; i < scope.size(); i++) {
      Clause clause = scope.get(i);
      if (coverage.covers(clause)) {
        Fit fit =
            new Fit(
                new Coverage(viewScope, i, clause, Seals.named(clause, resource, catalogue)),
                obstacles(clause, home, view, throughSeals));
        if (best == null || fit.obstacles().size() < best.obstacles().size()) {
          best = fit;
        }
      }
    }
    return best;
  }

  /** Whether a relative clause leads away from the account where it stays. */
  private boolean strays(Clause clause, @Nullable AccountKey home) {
    return home != null && clause.relative() && !catalogue.isAtOrBelow(coverage.account(), home);
  }

  private List<Obstacle> obstacles(
      Clause clause, @Nullable AccountKey home, boolean view, boolean throughSeals) {
    List<Obstacle> obstacles = new ArrayList<>();
    if (home != null && strays(clause, home)) {
      obstacles.add(new Obstacle.StaysAtHome(home));
    }
    if (!view
        && clause.terms().stream().anyMatch(Term.OwnUnit.class::isInstance)
        && !coverage.isInOwnUnit(false)) {
      obstacles.add(new Obstacle.ReachedForViewingOnly());
    }
    ResourceKey seal = throughSeals ? null : Seals.against(clause, resource, catalogue);
    if (seal != null) {
      obstacles.add(new Obstacle.SealedBy(seal));
    }
    return obstacles;
  }
}
