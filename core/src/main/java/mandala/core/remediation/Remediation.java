package mandala.core.remediation;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.key.PrincipalKey;
import mandala.core.question.Impact;
import mandala.core.question.Question;

/**
 * One way to give an access or to end it: a draft, and what else it does to whom.
 *
 * @param draft the changes
 * @param own rights that the principal asked about gains or loses by it, what was asked for
 *     included
 * @param others rights that all others gain or lose by it
 * @param touched who else gains or loses anything
 */
public record Remediation(Draft draft, long own, long others, List<Impact.Person> touched) {

  /** Copies its people. */
  public Remediation {
    touched = List.copyOf(touched);
  }

  /** {@return how many others gain or lose anything} */
  public int people() {
    return touched.size();
  }

  /**
   * {@return whether it denies}: a deny stays in the model, and overrides what is granted later too
   */
  public boolean leavesDeny() {
    return draft.changes().stream()
        .anyMatch(change ->
            change instanceof Change.Added(Assignment it) && it.effect() == Assignment.Effect.DENY);
  }

  /** The least change to anybody first, then the fewest changes; a stable order. */
  static final Comparator<Remediation> CHEAPEST =
      Comparator.comparingLong((Remediation way) -> way.own() + way.others())
          .thenComparingInt(way -> way.draft().changes().size())
          .thenComparing(way -> way.draft().toString());

  /** What removes before what denies, each the least change to anybody first. */
  static final Comparator<Remediation> REMOVING_FIRST =
      Comparator.comparing(Remediation::leavesDeny).thenComparing(CHEAPEST);

  /** Weighs a draft by all that it does. */
  static Remediation of(Draft draft, Engine before, Engine after, Question question) {
    Impact impact =
        before.impact(after, draft.inOrder(), question.at(), true, Impact.Watch.TO_THE_END);
    PrincipalKey whose = question.actingFor() == null ? question.principal() : question.actingFor();
    long own = 0;
    long others = 0;
    List<Impact.Person> touched = new ArrayList<>();
    for (Impact.Person person : impact.people()) {
      long many = person.gained() + person.lost();
      if (person.principal().equals(whose)) {
        own = many;
      } else {
        others += many;
        touched.add(person);
      }
    }
    return new Remediation(draft, own, others, touched);
  }
}
