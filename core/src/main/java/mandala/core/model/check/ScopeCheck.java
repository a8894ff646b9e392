package mandala.core.model.check;

import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Term;

/** The clauses of a scope (section 4). */
final class ScopeCheck {

  private final Catalogue known;

  ScopeCheck(Catalogue known) {
    this.known = known;
  }

  void check(List<Clause> scope, Faults.Place place) {
    for (int i = 0; i < scope.size(); i++) {
      Faults.Place clause = place.index(i);
      if (scope.get(i).terms().isEmpty()) {
        clause.report(
            "the clause has no term", "Give a term; 'everything': true if you mean everything");
      }
      scope.get(i).terms().forEach(term -> term(term, clause));
    }
  }

  private void term(Term term, Faults.Place at) {
    switch (term) {
      case Term.InAccount(var key) ->
          at.field("account").requireKnown(known.accounts().containsKey(key), "account", key);
      case Term.Tree(var key) -> at.field("tree").requireKnown(known.has(key), "resource", key);
      case Term.Only(var key) -> at.field("only").requireKnown(known.has(key), "resource", key);
      case Term.InCollection(var key) ->
          at.field("collection")
              .requireKnown(known.collections().containsKey(key), "collection", key);
      case Term.OfType(var key) ->
          at.field("type").requireKnown(known.types().contains(key), "resource type", key);
      case Term.InUnit(var key) ->
          at.field("unit").requireKnown(known.units().containsKey(key), "unit", key);
      case Term.Labelled(var labels) -> {
        if (labels.isEmpty()) {
          at.field("labels")
              .report("no label is named", "Name at least one label, or leave it out");
        }
      }
      case Term.Everything _, Term.OwnAccount _, Term.OwnUnit _, Term.OwnedBy _ -> {
        // nothing is referred to
      }
    }
  }

  /** {@return whether a clause has a term that a public subject needs} (section 4) */
  static boolean namesAPlace(Clause clause) {
    return clause.terms().stream()
        .anyMatch(term ->
            term instanceof Term.InAccount
                || term instanceof Term.Tree
                || term instanceof Term.Only
                || term instanceof Term.InCollection);
  }
}
