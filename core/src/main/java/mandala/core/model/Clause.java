package mandala.core.model;

import java.util.Comparator;
import java.util.List;

/** The intersection of its terms; a scope is a list of clauses and covers what any covers. */
public record Clause(List<Term> terms) {

  /** Copies its terms into the one order in which documents write them. */
  public Clause {
    terms = terms.stream().sorted(Comparator.comparingInt(Clause::rank)).toList();
  }

  private static int rank(Term term) {
    return switch (term) {
      case Term.Everything _ -> 0;
      case Term.InAccount _, Term.OwnAccount _ -> 1;
      case Term.Tree _ -> 2;
      case Term.Only _ -> 3;
      case Term.InCollection _ -> 4;
      case Term.OfType _ -> 5;
      case Term.InUnit _, Term.OwnUnit _ -> 6;
      case Term.OwnedBy _ -> 7;
      case Term.Labelled _ -> 8;
    };
  }

  /** {@return a clause of these terms} */
  public static Clause of(Term... terms) {
    return new Clause(List.of(terms));
  }

  /** {@return whether any term depends on the principal} (section 4) */
  public boolean relative() {
    return terms.stream().anyMatch(Term::relative);
  }
}
