package mandala.core.explain;

import mandala.core.model.Key;
import mandala.core.model.Subject;

/** One step from a principal to the subject of an assignment (section 2). */
public sealed interface SubjectStep {

  /** The principal itself. */
  record Oneself(Key.Principal key) implements SubjectStep {}

  /** A group that lists what stands before, or contains it by its rule. */
  record InGroup(Key.Group key, boolean byRule) implements SubjectStep {}

  /** The principal names the pattern. */
  record WithPattern(Key.Pattern key) implements SubjectStep {}

  /** The account is the principal's home, or it is a guest there. */
  record AtAccount(Key.Account key, boolean asGuest) implements SubjectStep {}

  /** A public subject. */
  record Publicly(Subject.Public subject) implements SubjectStep {}
}
