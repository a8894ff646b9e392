package mandala.core.model;

import java.util.List;

/** A door: lets members of a group hold something in another account. */
public record Bridge(
    Key.Bridge key,
    About about,
    Key.Account account,
    Key.Group group,
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
