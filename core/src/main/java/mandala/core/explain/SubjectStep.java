package mandala.core.explain;

import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;

/** One step from a principal to the subject of an assignment (section 2). */
public sealed interface SubjectStep {

  /** The principal itself. */
  record Oneself(PrincipalKey key) implements SubjectStep {}

  /** A group that lists what stands before, or contains it by its rule. */
  record InGroup(GroupKey key, boolean byRule) implements SubjectStep {}

  /** The principal names the pattern. */
  record WithPattern(PatternKey key) implements SubjectStep {}

  /** The account is the principal's home, or it is a guest there. */
  record AtAccount(AccountKey key, boolean asGuest) implements SubjectStep {}

  /** A public subject. */
  record Publicly(Subject.Public subject) implements SubjectStep {}
}
