package mandala.core.rule;

import java.time.Instant;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.key.AccountKey;

/** What a bridge gives to a group of another account, and where (section 5). */
public final class Bridges {

  private Bridges() {}

  /**
   * {@return the account of a bridge's group}: where members must belong, and which must be live
   *
   * @throws IllegalArgumentException if there is no such group
   */
  public static AccountKey sourceOf(Bridge bridge, Catalogue catalogue) {
    Group group = catalogue.groups().get(bridge.group());
    if (group == null) {
      throw new IllegalArgumentException("There is no group '" + bridge.group() + "'");
    }
    return group.account();
  }

  /** {@return whether a bridge is accepted, in its window, and its source account live} */
  public static boolean isInForce(Bridge bridge, Instant at, Catalogue catalogue) {
    return bridge.status() == Bridge.Status.ACCEPTED
        && bridge.window().holdsAt(at)
        && Activity.isLive(sourceOf(bridge, catalogue), catalogue);
  }

  /** {@return whether a bridge can give anything on resources of an account}: its own or below */
  public static boolean leadsTo(Bridge bridge, AccountKey account, Catalogue catalogue) {
    return catalogue.isAtOrBelow(account, bridge.account());
  }
}
