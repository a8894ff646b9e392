package mandala.server.model;

import java.util.Set;
import mandala.core.model.key.PrincipalKey;

/** Ends what belongs to principals that a revision removes, in the revision's transaction. */
public interface Departure {

  /** Ends it all: whoever has one of these keys later is somebody else. */
  void of(Set<PrincipalKey> gone);
}
