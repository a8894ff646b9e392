package mandala.core.model;

import java.util.List;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.BridgeKey;
import mandala.core.model.key.GroupKey;

/** A door: lets members of a group hold something in another account. */
public record Bridge(
    BridgeKey key,
    About about,
    AccountKey account,
    GroupKey group,
    Gives gives,
    List<Clause> scope,
    Window window,
    Status status)
    implements Thing {

  /** Copies its scope. */
  public Bridge {
    scope = List.copyOf(scope);
  }

  /** Only an accepted bridge gives anything. */
  public enum Status {
    OFFERED,
    ACCEPTED,
    ENDED
  }
}
