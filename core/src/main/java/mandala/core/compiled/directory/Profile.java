package mandala.core.compiled.directory;

import mandala.core.model.Principal;

/**
 * What questions need of a principal, in numbers. Immutable.
 *
 * <p>{@code groups} holds every active group that contains it by what does not depend on time:
 * listed, by a rule of its home account, or through other groups (section 2). What a guest
 * membership adds is found when asked, for it has a window.
 */
public final class Profile {

  public final Principal principal;
  public final int home;

  /** -1 where there is none. */
  final int unit;

  public final int manager;
  public final int pattern;

  /** Its status is active and its home is live; whether it is in force is asked at an instant. */
  public final boolean enabled;

  /** It is a person who is enrolled for a second factor. */
  public final boolean factor;

  public final TimeSpan times;
  public final int[] groups;

  /** Its own unit and those it reaches in full; those it reaches for viewing. */
  public final int[] fullUnits;

  public final int[] viewUnits;

  Profile(
      Principal principal,
      int home,
      int unit,
      int manager,
      int pattern,
      boolean enabled,
      int[] groups,
      int[] fullUnits,
      int[] viewUnits) {
    this.principal = principal;
    this.home = home;
    this.unit = unit;
    this.manager = manager;
    this.pattern = pattern;
    this.enabled = enabled;
    this.factor = principal.kind() == Principal.Kind.PERSON && principal.mfa();
    this.times = TimeSpan.of(principal.window());
    this.groups = groups;
    this.fullUnits = fullUnits;
    this.viewUnits = viewUnits;
  }

  Profile in(int[] otherGroups) {
    return new Profile(
        principal, home, unit, manager, pattern, enabled, otherGroups, fullUnits, viewUnits);
  }
}
