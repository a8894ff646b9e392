package mandala.core.explain;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Group;
import mandala.core.model.Key;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.rule.Seals;
import org.jspecify.annotations.Nullable;

/** Whether clauses cover one resource for one principal, and what stands against it (section 4). */
public final class PointScope {

  private final Catalogue catalogue;
  private final @Nullable Principal principal;
  private final Key.Resource resource;

  /** The resource and all above it, itself first. */
  private final List<Key.Resource> upward = new ArrayList<>();

  private final Key.Account account;
  private final Key.@Nullable Unit unit;
  private final Map<String, String> labels;

  /**
   * Looks at one resource for one principal, none for anonymous.
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public PointScope(Catalogue catalogue, @Nullable Principal principal, Key.Resource resource) {
    this.catalogue = catalogue;
    this.principal = principal;
    this.resource = resource;
    for (Key.Resource at = resource; at != null; at = catalogue.parentOf(at)) {
      upward.add(at);
    }
    Key.Account home = catalogue.accountOf(resource);
    if (home == null) {
      throw new IllegalArgumentException("There is no resource '" + resource + "'");
    }
    account = home;
    unit = catalogue.unitOf(resource);
    labels = catalogue.labelsOf(resource);
  }

  /** What a clause makes of the resource: covered, with these obstacles for an allow. */
  public record Fit(Coverage coverage, List<Obstacle> obstacles) {
    /** Copies its obstacles. */
    public Fit {
      obstacles = List.copyOf(obstacles);
    }
  }

  /**
   * {@return the clause of a scope that covers the resource with the fewest obstacles}, null where
   * none covers it
   *
   * @param home where relative terms stay, or null
   * @param view whether the permission is of class view
   * @param throughSeals whether seals do not matter
   */
  public @Nullable Fit best(
      List<Clause> scope,
      boolean viewScope,
      Key.@Nullable Account home,
      boolean view,
      boolean throughSeals) {
    Fit best = null;
    for (int i = 0; i < scope.size(); i++) {
      Clause clause = scope.get(i);
      if (clause.terms().stream().allMatch(this::covers)) {
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

  /** {@return the account where relative terms of an assignment to a subject stay}, or null */
  public static Key.@Nullable Account homeOf(Subject subject, Catalogue catalogue) {
    return switch (subject) {
      case Subject.OfGroup(Key.Group key) -> {
        Group group = catalogue.groups().get(key);
        yield group == null ? null : group.account();
      }
      case Subject.OfAccount(Key.Account key) -> key;
      case Subject.OfPattern(Key.Pattern key) -> {
        Pattern pattern = catalogue.patterns().get(key);
        yield pattern == null ? null : pattern.account();
      }
      case Subject.OfPrincipal _, Subject.Public _ -> null;
    };
  }

  private List<Obstacle> obstacles(
      Clause clause, Key.@Nullable Account home, boolean view, boolean throughSeals) {
    List<Obstacle> obstacles = new ArrayList<>();
    if (home != null && clause.relative() && !catalogue.isAtOrBelow(account, home)) {
      obstacles.add(new Obstacle.StaysAtHome(home));
    }
    if (!view
        && clause.terms().stream().anyMatch(Term.OwnUnit.class::isInstance)
        && !inOwnUnits(Set.of(Principal.Level.FULL))) {
      obstacles.add(new Obstacle.ReachedForViewingOnly());
    }
    Key.Resource seal = throughSeals ? null : Seals.against(clause, resource, catalogue);
    if (seal != null) {
      obstacles.add(new Obstacle.SealedBy(seal));
    }
    return obstacles;
  }

  /** {@return whether a term covers the resource} */
  public boolean covers(Term term) {
    return switch (term) {
      case Term.Everything _ -> true;
      case Term.InAccount(Key.Account key) -> key.equals(account);
      case Term.OwnAccount _ -> principal != null && principal.account().equals(account);
      case Term.Tree(Key.Resource key) -> upward.contains(key);
      case Term.Only(Key.Resource key) -> key.equals(resource);
      case Term.InCollection(Key.Collection key) -> {
        ResourceCollection collection = catalogue.collections().get(key);
        yield collection != null && collection.members().stream().anyMatch(upward::contains);
      }
      case Term.OfType(Key.Type key) -> catalogue.typeOf(resource).equals(key);
      case Term.InUnit(Key.Unit key) -> unit != null && catalogue.isAtOrBelow(unit, key);
      case Term.OwnUnit _ -> inOwnUnits(Set.of(Principal.Level.values()));
      case Term.OwnedBy(Term.Owner owner) -> owned(owner);
      case Term.Labelled(Map<String, String> wanted) ->
          labels.entrySet().containsAll(wanted.entrySet());
    };
  }

  private boolean inOwnUnits(Set<Principal.Level> levels) {
    if (principal == null || unit == null) {
      return false;
    }
    boolean own =
        principal.unit() != null
            && levels.contains(Principal.Level.FULL)
            && catalogue.isAtOrBelow(unit, principal.unit());
    return own
        || principal.reach().stream()
            .anyMatch(reach ->
                levels.contains(reach.level()) && catalogue.isAtOrBelow(unit, reach.unit()));
  }

  private boolean owned(Term.Owner owner) {
    Key.Principal whose = catalogue.ownerOf(resource);
    if (owner == Term.Owner.NONE || whose == null || principal == null) {
      return owner == Term.Owner.NONE && whose == null;
    }
    if (owner == Term.Owner.SELF) {
      return whose.equals(principal.key());
    }
    for (Key.Principal at = whose; at != null; ) {
      if (at.equals(principal.key())) {
        return true;
      }
      Principal it = catalogue.principals().get(at);
      at = it == null ? null : it.manager();
    }
    return false;
  }
}
