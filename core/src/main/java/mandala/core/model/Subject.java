package mandala.core.model;

/** To whom something is assigned. */
public sealed interface Subject {

  /** {@code person:K} or {@code service:K}. */
  record OfPrincipal(Principal.Kind kind, Key.Principal key) implements Subject {}

  /** {@code group:K}: all that the group contains. */
  record OfGroup(Key.Group key) implements Subject {}

  /** {@code pattern:K}: who names the pattern. */
  record OfPattern(Key.Pattern key) implements Subject {}

  /** {@code account:K}: whose home it is, and its guests. */
  record OfAccount(Key.Account key) implements Subject {}

  /** Subjects that reach beyond who belongs to an account (section 5). */
  enum Public implements Subject {
    SIGNED_IN,
    ANYONE,
    ANONYMOUS
  }
}
