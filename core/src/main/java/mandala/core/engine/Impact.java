package mandala.core.engine;

import java.util.List;
import mandala.core.model.Key;

/**
 * What some changes do to everybody. Counts first: what exactly one person gains and loses, {@link
 * Access#difference} of the person before and after tells.
 *
 * @param asked how many people were looked at: all that the changes may concern
 * @param people who gains or loses something, those with most first, then by key
 * @param total all of it together, by account and permission
 * @param complete whether it was not broken off
 */
public record Impact(int asked, List<Person> people, Difference total, boolean complete) {

  /** Copies its people. */
  public Impact {
    people = List.copyOf(people);
  }

  /** What one principal gains and loses, in rights. */
  public record Person(Key.Principal principal, long gained, long lost) {}

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
