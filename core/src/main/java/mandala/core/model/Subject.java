package mandala.core.model;

import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;

/** To whom something is assigned. */
public sealed interface Subject {

  /** {@code person:K} or {@code service:K}. */
  record OfPrincipal(Principal.Kind kind, PrincipalKey key) implements Subject {}

  /** {@code group:K}: all that the group contains. */
  record OfGroup(GroupKey key) implements Subject {}

  /** {@code pattern:K}: who names the pattern. */
  record OfPattern(PatternKey key) implements Subject {}

  /** {@code account:K}: whose home it is, and its guests. */
  record OfAccount(AccountKey key) implements Subject {}

  /** Subjects that reach beyond who belongs to an account (section 5). */
  enum Public implements Subject {
    SIGNED_IN,
    ANYONE,
    ANONYMOUS
  }
}
