package mandala.core.escalation;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import mandala.core.change.Change;
import mandala.core.change.Rewritten;
import mandala.core.explain.PointScope;
import mandala.core.model.Account;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Term;
import mandala.core.model.Unit;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * How a resource comes to be covered by a clause: it gets an owner, a unit, labels, another parent;
 * it is put into a collection; its unit is reached.
 */
final class PlaceChanges {

  private final CandidateChanges candidates;
  private final Catalogue catalogue;
  private final ResourceKey key;
  private final PointScope point;

  private PlaceChanges(ResourceKey key, PointScope point, CandidateChanges candidates) {
    this.candidates = candidates;
    this.catalogue = candidates.catalogue;
    this.key = key;
    this.point = point;
  }

  /** {@return changes of which each may be enough for a clause to cover the resource} */
  static List<Change> toCover(
      List<Clause> clauses, ResourceKey key, PointScope point, CandidateChanges candidates) {
    PlaceChanges places = new PlaceChanges(key, point, candidates);
    List<Change> changes = new ArrayList<>();
    for (Clause clause : clauses) {
      places.toCover(clause, changes);
    }
    return changes;
  }

  /** At most one change each: a clause that needs two kinds of them is left out. */
  private void toCover(Clause clause, List<Change> changes) {
    List<Term> missing = clause.terms().stream().filter(it -> !point.covers(it)).toList();
    if (missing.size() == 1 && missing.getFirst() instanceof Term.InCollection(var collection)) {
      ResourceCollection it = catalogue.collections().get(collection);
      changes.addAll(CandidateChanges.altered(it, was -> Rewritten.with(was, key)));
    }
    UnitKey unit = catalogue.unitOf(key);
    if (missing.size() == 1 && missing.getFirst() instanceof Term.OwnUnit && unit != null) {
      changes.addAll(
          CandidateChanges.altered(candidates.who, was -> Rewritten.reaching(was, unit)));
    }
    if (missing.size() == 1
        && missing.getFirst() instanceof Term.OwnedBy(Term.Owner owner)
        && owner == Term.Owner.TEAM) {
      managing(changes);
    }
    Resource is = catalogue.resources().get(key);
    for (Term term : missing) {
      is = is == null ? null : covered(is, term);
    }
    if (is != null && !is.equals(catalogue.resources().get(key))) {
      changes.add(new Change.Altered(Objects.requireNonNull(catalogue.resources().get(key)), is));
    }
  }

  /** The author becomes the manager of its owner, or of whom the owner reports to. */
  private void managing(List<Change> changes) {
    Resource is = catalogue.resources().get(key);
    PrincipalKey next = is == null ? null : is.owner();
    while (next != null) {
      Principal reports = catalogue.principals().get(next);
      if (reports != null && !reports.key().equals(candidates.who.key())) {
        changes.addAll(
            CandidateChanges.altered(
                reports,
                was -> Rewritten.facts(was, was.unit(), candidates.who.key(), was.attributes())));
      }
      next = reports == null ? null : reports.manager();
    }
  }

  /** The resource with what a term asks for, null where a change of the resource cannot do it. */
  private @Nullable Resource covered(Resource it, Term term) {
    return switch (term) {
      case Term.OwnedBy(Term.Owner owner) ->
          with(
              it,
              it.parent(),
              owner == Term.Owner.NONE ? null : candidates.who.key(),
              it.unit(),
              it.labels());
      case Term.InUnit(UnitKey unit) -> with(it, it.parent(), it.owner(), unit, it.labels());
      case Term.OwnUnit _ -> {
        UnitKey unit = unitFor(it.account());
        yield unit == null ? null : with(it, it.parent(), it.owner(), unit, it.labels());
      }
      case Term.Labelled(Map<String, String> labels) -> {
        Map<String, String> all = new HashMap<>(it.labels());
        all.putAll(labels);
        yield with(it, it.parent(), it.owner(), it.unit(), all);
      }
      case Term.Tree(ResourceKey top) -> {
        boolean here = it.account().equals(catalogue.accountOf(top));
        yield here && catalogue.resources().containsKey(top)
            ? with(it, top, it.owner(), it.unit(), it.labels())
            : null;
      }
      case Term.Everything _,
          Term.InAccount _,
          Term.OwnAccount _,
          Term.Only _,
          Term.InCollection _,
          Term.OfType _ ->
          null;
    };
  }

  /** A unit of an account that is one's own or reached in full. */
  private @Nullable UnitKey unitFor(AccountKey account) {
    List<UnitKey> units = new ArrayList<>();
    if (candidates.who.unit() != null) {
      units.add(candidates.who.unit());
    }
    candidates.who.reach().stream()
        .filter(it -> it.level() == Principal.Level.FULL)
        .forEach(it -> units.add(it.unit()));
    for (UnitKey each : units) {
      Unit unit = catalogue.units().get(each);
      Account at = catalogue.accounts().get(account);
      if (unit != null && at != null && unit.account().equals(at.key())) {
        return each;
      }
    }
    return null;
  }

  private static Resource with(
      Resource it,
      @Nullable ResourceKey parent,
      @Nullable PrincipalKey owner,
      @Nullable UnitKey unit,
      Map<String, String> labels) {
    return new Resource(
        it.key(), it.about(), it.type(), it.account(), parent, owner, unit, labels, it.sealed());
  }
}
