package mandala.core.detect;

/** What may come of a finding, the worst first. */
public enum Harm {
  /** Somebody could do what nobody may do alone, or did what was not allowed. */
  MISUSE,
  /** Access that nobody needs, or that reaches further than it needs to. */
  EXCESS,
  /** Access that outlives its reason. */
  LEFTOVER,
  /** Nobody answers for it. */
  NO_OWNER,
  /** It does not do what it is there for. */
  NO_EFFECT,
  /** It makes the model harder to read. */
  CLUTTER
}
