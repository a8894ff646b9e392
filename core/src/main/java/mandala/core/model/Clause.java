package mandala.core.model;

import java.util.Comparator;
import java.util.List;

/** The intersection of its terms; a scope is a list of clauses and covers what any covers. */
public record Clause(List<Term> terms) {

  /** Copies its terms into the one order in which documents write them. */
  public Clause {
    terms = terms.stream().sorted(Comparator.comparingInt(Term::order)).toList();
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
