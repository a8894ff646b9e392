package mandala.core.shrink;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.engine.Engine;
import mandala.core.explain.PointScope;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Principal;
import mandala.core.model.Term;
import mandala.core.model.key.ResourceKey;
import org.jspecify.annotations.Nullable;

/**
 * Narrows the scopes of one assignment to some places: a clause stays where each of its places is
 * among them, else it is cut to single places, or to trees where these would be too many. It never
 * covers what the scopes did not, through no seal that they do not pass.
 */
final class NarrowScope {

  /** A clause that covers more places is never looked through. */
  private static final int MOST = 20_000;

  private final Engine engine;
  private final Catalogue catalogue;
  private final Assignment assignment;
  private final int most;

  /** By clause: the places that it covers, relative terms aside; none where there are too many. */
  private final Map<Clause, Set<ResourceKey>> covered = new HashMap<>();

  NarrowScope(Engine engine, Assignment assignment, int most) {
    this.engine = engine;
    this.catalogue = engine.catalogue();
    this.assignment = assignment;
    this.most = most;
  }

  /** Both scopes of an assignment. */
  record Scopes(List<Clause> scope, List<Clause> viewScope) {}

  /**
   * A place that is needed, for somebody.
   *
   * @param view whether nothing but viewing is needed there
   */
  record Need(ResourceKey place, @Nullable Principal who, boolean view) {}

  /** {@return the place by which clause}, null where none covers it */
  private PointScope.@Nullable Fit fit(Need need) {
    PointScope point = new PointScope(catalogue, need.who(), need.place());
    PointScope.Fit full = point.allowing(assignment, false);
    if (full != null && full.obstacles().isEmpty()) {
      return full;
    }
    PointScope.Fit viewing = need.view() ? point.allowing(assignment, true) : null;
    return viewing != null && viewing.obstacles().isEmpty() ? viewing : null;
  }

  /**
   * {@return the scopes cut to what is needed}; null where a place is not covered after all
   *
   * @param matters of which places it matters whether they are covered
   */
  @Nullable Scopes to(List<Need> needs, Predicate<ResourceKey> matters) {
    Map<Clause, Set<ResourceKey>> scope = new LinkedHashMap<>();
    Map<Clause, Set<ResourceKey>> viewScope = new LinkedHashMap<>();
    Map<ResourceKey, PointScope.Fit> known = new HashMap<>();
    for (Need need : needs) {
      PointScope.@Nullable Fit fit = known.get(need.place());
      if (fit == null || fit.coverage().clause().relative()) {
        fit = fit(need);
      }
      if (fit == null) {
        return null;
      }
      known.put(need.place(), fit);
      (fit.coverage().viewScope() ? viewScope : scope)
          .computeIfAbsent(fit.coverage().clause(), _ -> new LinkedHashSet<>())
          .add(need.place());
    }
    return new Scopes(cut(scope, matters), cut(viewScope, matters));
  }

  private List<Clause> cut(Map<Clause, Set<ResourceKey>> parts, Predicate<ResourceKey> matters) {
    Set<Clause> clauses = new LinkedHashSet<>();
    parts.forEach((clause, places) -> clauses.addAll(cut(clause, places, matters)));
    return List.copyOf(clauses);
  }

  private List<Clause> cut(Clause clause, Set<ResourceKey> places, Predicate<ResourceKey> matters) {
    Set<ResourceKey> all = covered(clause);
    if (!all.isEmpty() && all.stream().filter(matters).allMatch(places::contains)) {
      return List.of(clause);
    }
    Set<Clause> cut = new LinkedHashSet<>();
    places.forEach(it -> cut.add(with(clause, new Term.Only(it))));
    if (cut.size() <= most) {
      return List.copyOf(cut);
    }
    Set<ResourceKey> tops = new LinkedHashSet<>(places);
    while (tops.size() > most) {
      Set<ResourceKey> up = raised(tops, all);
      if (up.size() == tops.size()) {
        return List.of(clause);
      }
      tops = up;
    }
    List<Clause> trees = new ArrayList<>();
    tops.forEach(it -> trees.add(tree(clause, it, all)));
    return trees;
  }

  /** The deepest of some places, taken together with what lies beside them under their parent. */
  private Set<ResourceKey> raised(Set<ResourceKey> places, Set<ResourceKey> within) {
    Map<ResourceKey, Integer> depths = new HashMap<>();
    places.forEach(it -> depths.put(it, depth(it)));
    int deepest = depths.values().stream().mapToInt(it -> it).max().orElse(0);
    Set<ResourceKey> up = new LinkedHashSet<>();
    for (ResourceKey it : places) {
      ResourceKey parent = catalogue.parentOf(it);
      boolean rises = depths.getOrDefault(it, 0) == deepest && parent != null;
      up.add(rises && parent != null && within.contains(parent) ? parent : it);
    }
    Set<ResourceKey> tops = new LinkedHashSet<>(up);
    tops.removeIf(it -> isBelowAny(it, up));
    return tops;
  }

  private boolean isBelowAny(ResourceKey place, Set<ResourceKey> tops) {
    for (ResourceKey it = catalogue.parentOf(place); it != null; it = catalogue.parentOf(it)) {
      if (tops.contains(it)) {
        return true;
      }
    }
    return false;
  }

  private int depth(ResourceKey place) {
    int depth = 0;
    for (ResourceKey it = catalogue.parentOf(place); it != null; it = catalogue.parentOf(it)) {
      depth++;
    }
    return depth;
  }

  /** The clause within a tree, where that covers nothing else; else the clause. */
  private Clause tree(Clause clause, ResourceKey top, Set<ResourceKey> within) {
    Clause tree = with(clause, new Term.Tree(top));
    Set<ResourceKey> places = covered(tree);
    return !places.isEmpty() && within.containsAll(places) ? tree : clause;
  }

  /**
   * A clause that names a place of it, too. What else names places goes: the place says it all.
   * Relative terms stay, and so do type, labels and owner.
   */
  private static Clause with(Clause clause, Term place) {
    List<Term> terms = new ArrayList<>(List.of(place));
    for (Term term : clause.terms()) {
      boolean stays =
          switch (term) {
            case Term.OwnAccount _, Term.OwnUnit _ -> true;
            case Term.OwnedBy(var owner) -> owner != Term.Owner.NONE || place instanceof Term.Tree;
            case Term.OfType _, Term.Labelled _, Term.InUnit _ -> place instanceof Term.Tree;
            case Term.Everything _, Term.InAccount _, Term.Tree _, Term.Only _ -> false;
            case Term.InCollection _ -> false;
          };
      if (stays) {
        terms.add(term);
      }
    }
    return new Clause(terms);
  }

  private Set<ResourceKey> covered(Clause clause) {
    return covered.computeIfAbsent(
        clause,
        it -> {
          var places = engine.covered(List.of(it), MOST);
          return places.count() > MOST ? Set.of() : new HashSet<>(places.first());
        });
  }
}
