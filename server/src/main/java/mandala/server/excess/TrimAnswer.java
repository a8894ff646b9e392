package mandala.server.excess;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Proposals to trim somebody's access, from the safest to the tightest.
 *
 * @param revision of the model that they fit
 * @param principal key of whose access it is
 * @param days of the window
 * @param before exposure of all about whom the viewer may ask
 * @param floor what they need of it, what is too new to judge and what is not observed
 * @param own exposure of the one whose access it is
 * @param narrows whether assignments are also narrowed: the viewer may define the sets for it
 * @param points the proposals
 */
record TrimAnswer(
    long revision,
    String principal,
    int days,
    long before,
    long floor,
    long own,
    boolean narrows,
    List<TrimPoint> points) {

  /**
   * A proposal.
   *
   * @param tight from 0, only what nobody uses ends, to 1, exactly what is needed stays
   * @param after exposure of all about whom the viewer may ask
   * @param own exposure of the one whose access it is
   * @param added assignments more than before, less than 0 for fewer
   * @param steps what is changed
   * @param changes the same as a document; absent in what is told
   */
  record TrimPoint(
      double tight,
      long after,
      long own,
      int added,
      List<TrimStep> steps,
      @Nullable String changes) {}

  /**
   * Something that is trimmed.
   *
   * @param said in sentences
   * @param why it is safe
   */
  record TrimStep(List<String> said, String why) {}

  /** {@return the same without documents} */
  TrimAnswer told() {
    return new TrimAnswer(
        revision,
        principal,
        days,
        before,
        floor,
        own,
        narrows,
        points.stream()
            .map(
                it -> new TrimPoint(it.tight(), it.after(), it.own(), it.added(), it.steps(), null))
            .toList());
  }
}
