package mandala.core.question;

import java.time.Instant;
import java.util.List;
import mandala.core.model.key.PrincipalKey;

/**
 * What some changes do to everybody. Counts first: what exactly one person gains and loses, {@link
 * Access#difference} of the person before and after tells.
 *
 * @param asked how many people were looked at: all that the changes may concern
 * @param people who gains or loses something or keeps it by another route, those who gain and lose
 *     most first, then by key
 * @param total all of it together, by account and permission
 * @param rerouted how many rights are kept by another route (by another assignment or bridge), of
 *     everybody; {@link #UNTOLD} where that was not counted
 * @param complete whether it was not broken off
 */
public record Impact(
    int asked, List<Person> people, Difference total, long rerouted, boolean complete) {

  /** Not counted: routes were not asked for, or cannot be told apart. */
  public static final long UNTOLD = -1;

  /** Copies its people. */
  public Impact {
    people = List.copyOf(people);
  }

  /**
   * What one principal gains and loses, in rights.
   *
   * @param rerouted how many it keeps by another route, 0 where that was not counted
   */
  public record Person(PrincipalKey principal, long gained, long lost, long rerouted) {

    /** {@return whether it gains or loses anything} */
    public boolean differs() {
      return gained > 0 || lost > 0;
    }
  }

  /** {@return how many people gain or lose something} */
  public int differing() {
    return Math.toIntExact(people.stream().filter(Person::differs).count());
  }

  /** Visited by what changes do to principals over time. */
  @FunctionalInterface
  public interface Visitor {

    /**
     * Tells what changes do to a principal from an instant on. Called where something is gained or
     * lost, in the order of time; for different principals from different threads.
     *
     * @return whether later instants of this principal are wanted
     */
    boolean visit(PrincipalKey principal, Instant from, Difference difference);
  }

  /** Looks on while an impact is computed. */
  @FunctionalInterface
  public interface Watch {

    /** Goes on to the end. */
    Watch TO_THE_END = (_, _) -> true;

    /**
     * Told now and then how far it is; from any thread, one at a time.
     *
     * @return whether to go on
     */
    boolean goOn(int done, int of);
  }
}
