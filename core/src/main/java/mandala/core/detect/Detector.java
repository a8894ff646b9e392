package mandala.core.detect;

import java.util.Locale;

/** What is looked for. Each has a trouble of its own name in {@link Trouble}. */
public enum Detector {
  USE_NOT_ALLOWED(Harm.MISUSE, true),
  EXCLUSION_WITHIN_REACH(Harm.MISUSE, false),
  ESCALATION(Harm.MISUSE, false),
  BROAD_SCOPE(Harm.EXCESS, false),
  FEW_BECOME_MANY(Harm.EXCESS, false),
  SERVICE_WITH_PERSONS_ROLE(Harm.EXCESS, false),
  UNUSED_RIGHTS(Harm.EXCESS, true),
  UNUSED_ASSIGNMENT(Harm.EXCESS, true),
  RARE_AMONG_COLLEAGUES(Harm.EXCESS, false),
  SCOPE_WIDER_THAN_USE(Harm.EXCESS, true),
  ROLE_WIDER_THAN_USE(Harm.EXCESS, true),
  STANDING_CRITICAL(Harm.EXCESS, true),
  LEFT_OVER(Harm.LEFTOVER, false),
  STILL_ANSWERS(Harm.LEFTOVER, false),
  DORMANT(Harm.LEFTOVER, true),
  GUEST_PAST_PURPOSE(Harm.LEFTOVER, true),
  GUEST_WITHOUT_END(Harm.LEFTOVER, false),
  FEW_OWNERS(Harm.NO_OWNER, false),
  NO_LIVING_OWNER(Harm.NO_OWNER, false),
  NO_MANAGER(Harm.NO_OWNER, false),
  DENY_LOCKS_GATE(Harm.NO_EFFECT, false),
  DENY_WITHOUT_EFFECT(Harm.NO_EFFECT, false),
  GIVES_NOTHING(Harm.NO_EFFECT, false),
  NOT_OBSERVED(Harm.NO_EFFECT, true),
  REDUNDANT_ASSIGNMENT(Harm.CLUTTER, false),
  UNUSED_ROLE(Harm.CLUTTER, false),
  UNUSED_GROUP(Harm.CLUTTER, false),
  UNUSED_SET(Harm.CLUTTER, false),
  ALIKE_ROLES(Harm.CLUTTER, false);

  private final Harm harm;
  private final boolean byUse;

  Detector(Harm harm, boolean byUse) {
    this.harm = harm;
    this.byUse = byUse;
  }

  /** {@return what may come of what it finds} */
  public Harm harm() {
    return harm;
  }

  /** {@return whether it finds nothing where no use is observed} */
  public boolean byUse() {
    return byUse;
  }

  /** {@return its name in addresses and ids}, words joined by hyphens */
  public String key() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
