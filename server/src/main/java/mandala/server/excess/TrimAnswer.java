package mandala.server.excess;

import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How the access of some people can be trimmed, from the safest changes to the last.
 *
 * @param revision of the model that it fits
 * @param name what they are called
 * @param people how many they are
 * @param part whether some were left out whose whole access the viewer may not see
 * @param days of the window
 * @param before exposure of all about whom the viewer may ask
 * @param floor what they need of it, what is too new to judge and what is not observed
 * @param own exposure of those whose access it is
 * @param ownFloor the same of that
 * @param narrows whether assignments are also narrowed: the viewer may define the sets for it
 * @param steps what can be changed, one after the other
 * @param points after how many of them one may stop
 * @param rareDays on how many days at most something is used that is in {@code rare}
 * @param rare what is held all the time and used on few days, after all steps
 */
record TrimAnswer(
    long revision,
    String name,
    int people,
    boolean part,
    int days,
    long before,
    long floor,
    long own,
    long ownFloor,
    boolean narrows,
    List<TrimStep> steps,
    List<TrimPoint> points,
    int rareDays,
    List<RareAssignment> rare) {

  /**
   * A number of steps after which the model is sound.
   *
   * @param steps how many
   * @param after exposure of all about whom the viewer may ask
   * @param own exposure of those whose access it is
   * @param assignments more than before, less than 0 for fewer
   * @param added how many new assignments, sets and other things there are
   */
  record TrimPoint(int steps, long after, long own, int assignments, int added) {}

  /**
   * Something that is trimmed.
   *
   * @param said in sentences
   * @param why it is safe
   * @param narrowed whether it gives less, rather than ends
   * @param kind of what is changed, as documents name it
   * @param key of that; absent for a guest membership
   * @param changes the same as a document; absent in answers to calls
   */
  record TrimStep(
      List<String> said,
      String why,
      boolean narrowed,
      String kind,
      @Nullable String key,
      @Nullable String changes) {}

  /**
   * An assignment to one of them that is rarely used.
   *
   * @param said what it gives, in a sentence
   * @param days on how many days it was used, at most
   * @param last when last
   */
  record RareAssignment(String key, String said, int days, LocalDate last) {}

  /** {@return the same without documents} */
  TrimAnswer told() {
    return new TrimAnswer(
        revision,
        name,
        people,
        part,
        days,
        before,
        floor,
        own,
        ownFloor,
        narrows,
        steps.stream()
            .map(it -> new TrimStep(it.said(), it.why(), it.narrowed(), it.kind(), it.key(), null))
            .toList(),
        points,
        rareDays,
        rare);
  }
}
