package mandala.core.route;

import mandala.core.model.Key;
import mandala.core.model.Subject;

/** One step from a principal to the subject of an assignment (section 2). */
public sealed interface Step {

  /** The principal itself. */
  record Oneself(Key.Principal key) implements Step {}

  /** A group that lists what stands before, or contains it by its rule. */
  record InGroup(Key.Group key, boolean byRule) implements Step {}

  /** The principal names the pattern. */
  record WithPattern(Key.Pattern key) implements Step {}

  /** The account is the principal's home, or it is a guest there. */
  record AtAccount(Key.Account key, boolean asGuest) implements Step {}

  /** A public subject. */
  record Publicly(Subject.Public subject) implements Step {}
}
