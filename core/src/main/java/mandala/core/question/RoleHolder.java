package mandala.core.question;

import java.util.List;
import mandala.core.model.Subject;
import mandala.core.model.key.PrincipalKey;

/**
 * Somebody who holds a role, activated or not.
 *
 * @param through their subjects to which it is assigned, in the order of the assignments
 * @param byBridge whether a bridge gives it to them, too
 */
public record RoleHolder(PrincipalKey principal, List<Subject> through, boolean byBridge) {
  /** Copies its subjects. */
  public RoleHolder {
    through = List.copyOf(through);
  }
}
