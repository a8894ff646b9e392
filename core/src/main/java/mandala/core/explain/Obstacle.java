package mandala.core.explain;

import mandala.core.model.Bridge;
import mandala.core.model.Subject;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.DelegationKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import org.jspecify.annotations.Nullable;

/** Why a route gives nothing now. */
public sealed interface Obstacle {

  /** The assignment, bridge or delegation is not in its window. */
  record OutsideWindow(Window window) implements Obstacle {}

  /** A just-in-time assignment is not activated. */
  record NotActivated() implements Obstacle {}

  /** A just-in-time assignment is not passed on to a delegate (section 7). */
  record NotForDelegates() implements Obstacle {}

  /**
   * The role needs a second factor, which the session lacks or the principal is not enrolled for.
   */
  record NeedsSecondFactor(RoleKey role) implements Obstacle {}

  /** A seal cuts the resource off from what comes from above. */
  record SealedBy(ResourceKey seal) implements Obstacle {}

  /** The principal is not among the subjects. */
  record NotMember(Subject subject) implements Obstacle {}

  /** The group on the way is retired. */
  record GroupRetired(GroupKey group) implements Obstacle {}

  /** The role on the way is retired. */
  record RoleRetired(RoleKey role) implements Obstacle {}

  /** The principal does not belong to the account. */
  record DoesNotBelong(AccountKey account) implements Obstacle {}

  /** The account is suspended. */
  record AccountSuspended(AccountKey account) implements Obstacle {}

  /** A relative term of a group, account or pattern counts only within this account. */
  record StaysAtHome(AccountKey account) implements Obstacle {}

  /** The unit is reached for viewing only. */
  record ReachedForViewingOnly() implements Obstacle {}

  /** The bridge is not accepted. */
  record BridgeNotAccepted(Bridge.Status status) implements Obstacle {}

  /** A gate is not usable; {@code at} is null where there is no resource to which it applies. */
  record GateMissing(PermissionKey gate, @Nullable ResourceKey at) implements Obstacle {}

  /** Something denies it. */
  record DeniedBy(Source source, PrincipalKey principal) implements Obstacle {}

  /** The delegation does not let it through. */
  record OutsideDelegation(DelegationKey delegation, Why why) implements Obstacle {}

  /** Nobody's delegation is in force. */
  record NoDelegation(PrincipalKey principal) implements Obstacle {}

  /** The principal is not active. */
  record PrincipalInactive(PrincipalKey principal) implements Obstacle {}

  /** What of a delegation does not fit. */
  enum Why {
    NOT_DELEGABLE,
    LIMIT,
    SCOPE
  }
}
