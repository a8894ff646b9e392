package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AssignmentKey;

/** Gives a role, a permission set or a single permission to a subject within a scope. */
public record Assignment(
    AssignmentKey key,
    About about,
    Subject subject,
    Gives gives,
    Effect effect,
    List<Clause> scope,
    List<Clause> viewScope,
    Window window,
    Mode mode,
    boolean crossesSeals)
    implements Thing {

  /** Copies its scopes. */
  public Assignment {
    scope = List.copyOf(scope);
    viewScope = List.copyOf(viewScope);
  }

  /** {@return the same, standing} */
  public Assignment standing() {
    return in(Mode.STANDING);
  }

  /** {@return the same in another mode} */
  public Assignment in(Mode other) {
    return new Assignment(
        key, about, subject, gives, effect, scope, viewScope, window, other, crossesSeals);
  }

  /** What a single permission does. */
  public enum Effect {
    ALLOW,
    DENY
  }

  /** Whether the assignment always holds or must be switched on. */
  public enum Mode {
    STANDING,
    JUST_IN_TIME
  }
}
