package mandala.core.explain;

import java.util.List;
import mandala.core.model.key.DelegationKey;
import org.jspecify.annotations.Nullable;

/**
 * One way by which a permission on a resource is given, or would be.
 *
 * @param subjectPath from the principal to the subject, the shortest
 * @param otherPaths how many other ways lead to the same subject
 * @param gifts from what is assigned to the permission asked for
 * @param delegation the delegation that lets it through, where one acts for another
 * @param obstacles why it gives nothing now; none where it is live
 */
public record Route(
    Source source,
    List<SubjectStep> subjectPath,
    long otherPaths,
    List<GrantStep> gifts,
    Coverage coverage,
    @Nullable DelegationKey delegation,
    List<Obstacle> obstacles) {

  /** {@return whether it gives the permission now} */
  public boolean live() {
    return obstacles.isEmpty();
  }
}
