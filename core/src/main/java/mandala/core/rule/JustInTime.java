package mandala.core.rule;

import java.time.Instant;
import mandala.core.model.Catalogue;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.PrincipalKey;

/** Just-in-time assignments give something only while they are activated (section 2). */
public final class JustInTime {

  private JustInTime() {}

  /**
   * {@return whether somebody's activation of an assignment holds at an instant}
   *
   * @throws IllegalArgumentException if there is no such principal
   */
  public static boolean isActivated(
      PrincipalKey who, AssignmentKey assignment, Instant at, Catalogue catalogue) {
    return catalogue.links().activations(catalogue.principals().require(who)).stream()
        .anyMatch(it -> it.assignment().equals(assignment) && it.window().holdsAt(at));
  }
}
