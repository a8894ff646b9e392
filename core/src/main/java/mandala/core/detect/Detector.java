package mandala.core.detect;

import java.util.Locale;

/** What is looked for. Each has a trouble of its own name in {@link Trouble}. */
public enum Detector {
  USE_NOT_ALLOWED(Harm.MISUSE),
  EXCLUSION_WITHIN_REACH(Harm.MISUSE),
  ESCALATION(Harm.MISUSE),
  BROAD_SCOPE(Harm.EXCESS),
  FEW_BECOME_MANY(Harm.EXCESS),
  SERVICE_WITH_PERSONS_ROLE(Harm.EXCESS),
  UNUSED_RIGHTS(Harm.EXCESS),
  UNUSED_ASSIGNMENT(Harm.EXCESS),
  RARE_AMONG_COLLEAGUES(Harm.EXCESS),
  SCOPE_WIDER_THAN_USE(Harm.EXCESS),
  ROLE_WIDER_THAN_USE(Harm.EXCESS),
  STANDING_CRITICAL(Harm.EXCESS),
  LEFT_OVER(Harm.LEFTOVER),
  STILL_ANSWERS(Harm.LEFTOVER),
  DORMANT(Harm.LEFTOVER),
  GUEST_PAST_PURPOSE(Harm.LEFTOVER),
  GUEST_WITHOUT_END(Harm.LEFTOVER),
  FEW_OWNERS(Harm.NO_OWNER),
  NO_LIVING_OWNER(Harm.NO_OWNER),
  NO_MANAGER(Harm.NO_OWNER),
  DENY_LOCKS_GATE(Harm.NO_EFFECT),
  DENY_WITHOUT_EFFECT(Harm.NO_EFFECT),
  GIVES_NOTHING(Harm.NO_EFFECT),
  NOT_OBSERVED(Harm.NO_EFFECT),
  REDUNDANT_ASSIGNMENT(Harm.CLUTTER),
  UNUSED_ROLE(Harm.CLUTTER),
  UNUSED_GROUP(Harm.CLUTTER),
  UNUSED_SET(Harm.CLUTTER),
  ALIKE_ROLES(Harm.CLUTTER);

  private final Harm harm;

  Detector(Harm harm) {
    this.harm = harm;
  }

  /** {@return what may come of what it finds} */
  public Harm harm() {
    return harm;
  }

  /** {@return its name in addresses and ids}, words joined by hyphens */
  public String key() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
